# Runs inside one namespace: answers on the ports it is given, and probes others when it is told to. In Perl, of which Debian's
# essential part is enough, since one starts in a tenth of the time that a Node.js process takes, and a twin has some forty.
#
# Arguments: TCP ports and UDP ports, each joined by commas; 1 where IPv6 is spoken; the name that it answers with; how many times
# as long as usual it waits.
# In: a line of targets, parted by blanks, each `ip` or `ip=tcp443:8443,udp53:54` where a port is dialled by another number.
# Out: `ready`; then for each line one word a target: who answered at each TCP port, `/`, and at each UDP port, each joined by
# commas; 0 for nobody.
use strict;
use warnings;
use Fcntl qw(F_GETFL F_SETFL O_NONBLOCK);
use IO::Select;
use Socket qw(:DEFAULT inet_pton pack_sockaddr_in6 IPPROTO_IPV6 IPV6_V6ONLY SOMAXCONN);
use POSIX ();
use Errno qw(EINPROGRESS ECONNREFUSED);

# A name may wait until the other's process gets its turn; a kernel answers by itself.
my $patience = $ARGV[4];
my ($WAIT_TCP, $WAIT_NAME, $WAIT_UDP, $AGAIN, $AT_ONCE) = (1 * $patience, 5 * $patience, 2 * $patience, 1, 48);
# Seconds since some moment, in steps of a hundredth; `time` knows whole ones alone.
my $TICKS = POSIX::sysconf(POSIX::_SC_CLK_TCK());
sub now { return (POSIX::times())[0] / $TICKS }
my @tcp = split /,/, $ARGV[0];
my @udp = split /,/, $ARGV[1];
my ($six, $name) = @ARGV[2, 3];
$| = 1;
$SIG{PIPE} = 'IGNORE';

sub quiet { my $s = shift; fcntl($s, F_SETFL, fcntl($s, F_GETFL, 0) | O_NONBLOCK); return $s }
sub place { my ($ip, $port) = @_; return $ip =~ /:/ ? (AF_INET6, pack_sockaddr_in6($port, inet_pton(AF_INET6, $ip))) : (AF_INET, pack_sockaddr_in($port, inet_pton(AF_INET, $ip))) }
sub open_at { my ($type, $ip, $port) = @_;
  my ($family, $at) = place($ip, $port);
  socket(my $s, $family, $type, 0) or return;
  setsockopt($s, SOL_SOCKET, SO_REUSEADDR, 1);
  setsockopt($s, IPPROTO_IPV6, IPV6_V6ONLY, 0) if $family == AF_INET6;
  bind($s, $at) or return;
  return quiet($s) }

my $readers = IO::Select->new(quiet(\*STDIN));
my (%listens, %echoes);
for my $port (@tcp) { my $s = open_at(SOCK_STREAM, $six ? '::' : '0.0.0.0', $port) or next; listen($s, SOMAXCONN); $listens{fileno $s} = $s; $readers->add($s) }
# One socket for each address, as servers on machines with several have it: an answer leaves from the address that was asked.
for my $line (`ip -o addr show`) {
  my ($ip) = $line =~ /inet6? ([0-9a-f.:]+)\// or next;
  next if $ip =~ /^fe80/ or ($ip =~ /:/ and !$six);
  for my $port (@udp) { my $s = open_at(SOCK_DGRAM, $ip, $port) or next; $echoes{fileno $s} = $s; $readers->add($s) }
}

my (@queue, $input);
# What is tried now: by file number [socket, kind, answer list, place in it, next sending, when it ends].
my %tries;
my $LOOK = 0;
my $writers = IO::Select->new;

sub settle { my ($n, $answer) = @_; my $try = delete $tries{$n}; $try->[2][$try->[3]] = $answer; $writers->remove($try->[0]); $readers->remove($try->[0]); close $try->[0] }
sub dial { my ($kind, $ip, $port, $answers, $i) = @_;
  my ($family, $at) = place($ip, $port);
  $answers->[$i] = 0;
  socket(my $s, $family, $kind eq 'tcp' ? SOCK_STREAM : SOCK_DGRAM, 0) or return;
  quiet($s);
  if (!connect($s, $at) and $! != EINPROGRESS) { close $s; return }
  $tries{fileno $s} = [$s, $kind, $answers, $i, 0, now() + ($kind eq "tcp" ? $WAIT_TCP : $WAIT_UDP)];
  $kind eq 'tcp' ? $writers->add($s) : $readers->add($s) }

sub turn { my $end = shift;
  my ($r, $w) = IO::Select->select($readers, $writers, undef, $end);
  for my $s (@{ $w // [] }) {
    my $n = fileno $s // next;
    next unless $tries{$n};
    # Connected: whoever it is says a name.
    if (unpack('i', getsockopt($s, SOL_SOCKET, SO_ERROR)) == 0) { $writers->remove($s); $readers->add($s); $tries{$n}->[5] = now() + $WAIT_NAME } else { settle($n, 0) }
  }
  for my $s (@{ $r // [] }) {
    my $n = fileno $s // next;
    if ($tries{$n}) {
      # A refusal is an answer; anything else may be a neighbour that is not known yet, and is asked again.
      if (defined recv($s, my $text, 64, 0)) { settle($n, $text || 0) } elsif ($! == ECONNREFUSED) { settle($n, 0) }
    } elsif ($listens{$n}) { while (accept(my $c, $s)) { syswrite($c, $name); close $c } }
    elsif ($echoes{$n}) { while (my $from = recv($s, my $text, 64, 0)) { send($s, $name, 0, $from) } }
    else { my $got = sysread(STDIN, my $part, 65536); exit 0 unless $got; $input .= $part; while ($input =~ s/^(.*)\n//) { push @queue, $1 } }
  }
  # Who has waited long enough is looked for twenty times a second, not at each answer.
  my $now = now();
  return if $now < $LOOK;
  $LOOK = $now + 0.05;
  for my $n (keys %tries) {
    my $try = $tries{$n} or next;
    if ($now >= $try->[5]) { settle($n, 0) }
    elsif ($try->[1] eq 'udp' and $now >= $try->[4]) { send($try->[0], 'x', 0); $try->[4] = $now + $AGAIN }
  } }

print "ready\n";
for (;;) {
  turn(1) until @queue;
  my @targets = split / /, shift @queue;
  my @words;
  # A few at a time, so that a slow machine is not taken for a silent host.
  while (my @now = splice @targets, 0, $AT_ONCE) {
    my @rows;
    for my $target (@now) {
      my ($ip, $map) = split /=/, $target;
      my %dial = map { split /:/ } split /,/, $map // '';
      my ($t, $u) = ([], []);
      push @rows, [$t, $u];
      dial('tcp', $ip, $dial{"tcp$tcp[$_]"} // $tcp[$_], $t, $_) for 0 .. $#tcp;
      dial('udp', $ip, $dial{"udp$udp[$_]"} // $udp[$_], $u, $_) for 0 .. $#udp;
    }
    # Answers come in crowds: a short sleep lets more of them be read in one go.
    while (%tries) { turn(0.05); select undef, undef, undef, 0.01 }
    push @words, map { join(',', @{ $_->[0] }) . '/' . join(',', @{ $_->[1] }) } @rows;
  }
  print join(' ', @words), "\n";
}
