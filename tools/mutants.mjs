import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { checkNode, ensurePackages, ensureTypes } from './install.mjs'
import { ROOT, run } from './run.mjs'
import { say } from './say.mjs'

// Deliberate changes to what the engine means, one at a time, in a copy. Each must make some test fail. The kernel twin is not
// asked: what the unit tests let through would be left to it alone.

/** File under core, the text that is there, what stands there instead, and what that would mean. */
const MUTANTS = [
  ['ethernet/frames.ts', "if (mode.mode !== 'trunk') return null\n  if (tag === UNTAGGED)", "if (mode.mode !== 'trunk') return tag || null\n  if (tag === UNTAGGED)", 'a port that is no trunk takes tagged frames'],
  ['ethernet/frames.ts', "ssid?.apIds.includes(device.id) && network ?", 'network ?', 'an access point sends every SSID'],
  ['ethernet/frames.ts', "failed.has(link.id) || failed.has(into.deviceId) ||", 'failed.has(into.deviceId) ||', 'a failed cable still carries, hop by hop'],
  ['ethernet/frames.ts', 'fabric.roomOf(a) === fabric.roomOf(b)', 'fabric.spread(a).has(b)', 'frames one way are enough to talk'],
  ['ethernet/lanes.ts', 'out[own] = 0\n      into[0] = own', 'out[own] = own\n      into[0] = own', 'an access port tags what it sends'],
  ['ethernet/lanes.ts', 'into[0] = native', 'into[0] = -1', 'a trunk drops untagged frames'],
  ['ethernet/lanes.ts', 'if (failed.has(link.id) ||', 'if (', 'a failed cable still carries, for all VLANs'],
  ['ethernet/lanes.ts', 'else if (tag === 0) arrives = far.base', 'else arrives = far.base', 'a host takes tagged frames'],
  ['ethernet/spanning-tree.ts', '?? DEFAULT_PRIORITY', '?? 0', 'a bridge without a priority wins the root'],
  ['policy/rules.ts', 'open = minus(open, taken)', 'open = open', 'a later rule decides again what an earlier has decided'],
  ['policy/rules.ts', 'action: compiled.policy[chain], services: open', "action: 'accept', services: open", 'what no rule names is let through'],
  ['policy/rules.ts', 'entry.rule.chain === chain ? intersect(open, entry.services) : NOTHING', 'intersect(open, entry.services)', 'rules of the other chain decide too'],
  ['policy/rules.ts', "index.networks.has(via) ? said[end].inside : []", "said[end].inside", 'inside is everywhere'],
  ['policy/selectors.ts', "case 'internet': return 'uplink'", "case 'internet': return 'self'", 'the internet is the gateway itself'],
  ['policy/rules.ts', 'let words: number[] | null = null', 'let words: number[] | null = via[end].map(() => 0)', 'a rule must name interface and address both'],
  ['policy/numbering.ts', '(open.at(-1)?.end ?? 0) <= edge', '(open.at(-1)?.end ?? 0) < edge', 'a prefix reaches one stretch too far'],
  ['policy/services.ts', 'if (last && from <= last[1] + 1)', 'if (last && from <= last[1] + 2)', 'intervals with a gap of one port are joined'],
  ['policy/services.ts', 'if (from > next) out.push([next, from - 1])', 'if (from > next) out.push([next, from])', 'a complement holds the first port of what it leaves out'],
  ['policy/toll.ts', "case 'all':\n      return toll.of.reduce<ServiceSet>((set, t) => intersect(set, paid(t, through)), EVERYTHING)", "case 'all':\n      return toll.of.reduce<ServiceSet>((set, t) => union(set, paid(t, through)), NOTHING)", 'of two gateways in a row one is enough'],
  ['reach/endpoints.ts', "if (network.dhcp !== 'relay') return network.dhcp === 'serve'", "if (network.dhcp !== 'relay') return true", 'DHCP answers where it is off'],
  ['reach/endpoints.ts', 'prefixLength: fixed.mask ?? (', 'prefixLength: (', 'the mask typed into a host is not its own'],
  ['reach/endpoints.ts', 'parseIpv4(fixed.gateway ?? network.gateway)', 'parseIpv4(network.gateway)', 'the gateway typed into a host is not its own'],
  ['reach/endpoints.ts', 'if (ssid?.isolation) return ssid.id', 'if (ssid?.isolation) return null', 'stations of an isolating SSID hear each other'],
  ['reach/endpoints.ts', 'if (!contains(face.prefix, from.value) || !contains(face.prefix, to.value)) continue', '', 'a pool outside its interface is handed out'],
  ['reach/passage.ts', "if (networkOf(endpoint.gateway, endpoint.prefixLength) !== own) return ended(steps, [], 'gateway-off-link')", '', 'a gateway beyond the host’s own link is reached'],
  ['reach/round-trip.ts', 'const shut = back.stop !== null ||', 'const shut = there.stop !== null ||', 'the answer need not come back'],
  ['reach/round-trip.ts', 'return back === there ? there.length < 2 : back.length === there.length && back.every((id, i) => id === there[there.length - 1 - i])', 'return back === there || back.length > 0', 'an answer by another gateway is let through'],
  ['reach/passage.ts', "if (fresh) judge(trip, at, 'forward', face.networkId)", "judge(trip, at, 'forward', face.networkId)", 'answers are judged by the rules anew'],
  ['reach/passage.ts', '(site.dark.has(exit.id) || ', '(false || ', 'a dark line delivers'],
  ['reach/passage.ts', "return peer.theirAllowed.some((prefix) => contains(prefix, known) || (!fresh && contains(prefix, source))) ? null : 'peer-refuses'", 'return null', 'a far end takes from anyone'],
  ['reach/passage.ts', "if (!peer.theirAllowed.some((prefix) => contains(prefix, target.address) || contains(prefix, known))) return ended(steps, [], 'peer-sends-not')", '', 'a far end sends to anyone'],
  ['reach/passage.ts', "if (peerFor(face, source)?.id !== peer.id) return ended(steps, [], 'no-peer')", '', 'a peer may use another’s address'],
  ['reach/grid.ts', 'eachShared(asking, asked, (i) => items.add(ifHeld(intents[i])))', '', 'a cell is remembered although its intents changed'],
  ['reach/grid.ts', 'items.add(list?.compiled.policy[toll.chain])', '', 'a cell is remembered although a default changed'],
  ['reach/passage.ts', 'policyRoutes, forwards, tunnels, models, brief.equipment], () => layOut', 'policyRoutes, forwards, models, brief.equipment], () => layOut', 'what is known of the ways is remembered although a tunnel changed'],
  ['policy/anomalies.ts', 'if (!shadow || !same(shadow.met, earlier))', 'if (!shadow)', 'a rule stays shadowed when what shadowed it is gone'],
  ['reach/routing.ts', 'b.prefix.length - a.prefix.length || a.metric - b.metric', 'a.prefix.length - b.prefix.length || a.metric - b.metric', 'the shortest prefix wins'],
  ['reach/routing.ts', '|| a.metric - b.metric', '|| b.metric - a.metric', 'the highest metric wins'],
  ['reach/routing.ts', '|| u.probe === null)', '|| true)', 'a probe finds nothing out'],
  ['reach/routing.ts', 'if (prefix.length < length || !contains(prefix, address)) continue', 'if (prefix.length <= length || !contains(prefix, address)) continue', 'of two peers alike the earlier has an address'],
  ['reach/routing.ts', "exit: there ? route.out : route.orElse === 'next' ? usual : null", 'exit: there ? route.out : usual', 'no policy route refuses'],
  ['reach/routing.ts', 'open = minus(open, taken)', '', 'a policy route takes nothing away from the lines in order'],
  ['model/lookup.ts', "uplink.outside === 'own' &&", '', 'a shared address can be called'],
  ['model/lookup.ts', "(uplink.facts.modem !== 'routing' || uplink.facts.modemForwards)", 'true', 'a routing modem hands calls on'],
  ['reach/routing.ts', 'if (prefix.length > 0) add(tunnel.deviceId', 'add(tunnel.deviceId', 'a provider’s tunnel takes everybody'],
  ['reach/six.ts', 'linesOf: (address) => zoneOf(address)?.lines ?? [],', 'linesOf: () => delegated.map((d) => d.id),', 'unique local addresses go outside'],
  ['reach/six.ts', "return { kind: 'prefix', prefix: prefix ? drawnAs(prefix) : '' }", "return prefix ? { kind: 'prefix', prefix: drawnAs(prefix) } : { kind: 'any' }", 'a rule for IPv4 addresses meets IPv6'],
  ['reach/six.ts', 'return read ? [{ ...t, mapped: [], address: face(read)', 'return read && t.id === "" ? [{ ...t, mapped: [], address: face(read)', 'no tunnel carries IPv6'],
  ['reach/lots.ts', 'from === INTERNET && peers.has(to) && !site.six', 'from === INTERNET && peers.has(to)', 'nobody outside calls a peer by IPv6'],
  ['reach/passage.ts', "if (site.six && at.via !== 'self' && site.six.linesOf(at.source).length === 0) return { toll: SHUT, rest: NOTHING, stop: 'not-global' }", '', 'nobody says why an address has no way outside'],
  ['reach/hairpin.ts', "if (!forward.hairpin) return ended('not-handed-back')", '', 'every forward is handed to calls from inside'],
  ['reach/hairpin.ts', "if (line.outside !== 'own' || line.facts.modem === 'routing') return ended('address-elsewhere')", '', 'a shared address is the gateway’s own'],
  ['ethernet/frames.ts', "mode.mode === 'routed' ? (portId === null ? null : UNTAGGED)", "mode.mode === 'routed' ? UNTAGGED", 'a routed port sends what is bridged'],
  ['reach/endpoints.ts', "if (!failed.has(device.id)) out.push({ networkId: portKey", "if (false) out.push({ networkId: portKey", 'a routed port has no address'],
  ['reach/passage.ts', 'contains(prefix, known) || (!fresh && contains(prefix, source))', 'contains(prefix, source)', 'what goes into a tunnel keeps its real address'],
  ['reach/passage.ts', '|| contains(prefix, known))) return', ')) return', 'nobody calls a network by the prefix it is known by'],
  ['reach/passage.ts', 'site.sharing.get(at.deviceId)?.some((id) => site.dark.has(id))', 'false', 'a line that shares loses nobody while it is dark'],
  ['policy/numbering.ts', '=> ({ base: carried(p.base, outside, inside), length: p.length })', '=> p', 'half of the prefix a network is known by is all of the network'],
  ['policy/rules.ts', 'rule.when === null || holding.has(rule.when)', 'true', 'a rule with a schedule is there always'],
  ['reach/grid.ts', 'services = intents.map((intent) => (holds(intent) ? ', 'services = intents.map((intent) => (true ? ', 'an intent with a schedule is meant always'],
  ['reach/grid.ts', 'items.add(ifHeld(list.compiled.rules[i]?.rule))', 'items.add(list.compiled.rules[i]?.rule)', 'a cell is remembered although another time has come'],
  ['model/schedules.ts', 'x.from <= minute && minute < x.to', 'x.from <= minute && minute <= x.to', 'a schedule holds at its end'],
  ['policy/anomalies.ts', 'rule.when === null || rule.when === when', 'true', 'a rule of office hours shadows one for always'],
  ['policy/anomalies.ts', 'if (idle.has(next.rule)) return alike', '', 'of two rules that do the same work both may go'],
  ['policy/anomalies.ts', 'if (compiled.policy[rule.chain] !== rule.action) return null', '', 'the default does the work of any rule'],
  ['policy/anomalies.ts', 'if (!spare || !same(spare.hangsOn, hangsOn))', 'if (!spare)', 'a rule stays to be spared when the one that would do its work is gone'],
  ['policy/sides.ts', "routed, ...outsideOf(index).map(", "routed, ...outsideOf(index).slice(0, 1).map(", 'one address stands for everybody outside'],
  ['reach/cell.ts', 'refOf(a, b, open ? passes : EVERYTHING)', 'refOf(a, b, EVERYTHING)', 'a cell of which no rule speaks shows a flow that does not pass'],
  ['reach/cell.ts', 'excess: judged ? passes : NOTHING, example: refOf', 'excess: NOTHING, example: refOf', 'what a default lets through is never unasked'],
  ['model/lookup.ts', 'u.priority === line.priority && u.deviceId === line.deviceId', 'u.deviceId === line.deviceId', 'all lines share, whatever their order'],
  ['reach/six.ts', "return { ...f, ip: formatIpv4(placeOf(mine.address).base), gateway: null, mask:", "return { ...f, ip: '', gateway: null, mask:", 'a typed IPv6 address is nobody’s'],
  ['model/lookup.ts', '(index.groups.get(selector.id)?.members ?? [])', '(index.groups.get(selector.id)?.members ?? []).slice(0, 1)', 'a group is its first member alone'],
  ['model/pairs.ts', 'rules: [...policy.rules, ...policy.pairs.map(', 'rules: [...policy.pairs.toReversed().map(', 'the last default of a pair that fits decides, and no rule does'],
  ['reach/hairpin.ts', 'cuts.filter((c) => c > from && c <= to)', '[] as number[]', 'one host of a network stands for all of them'],
  ['ethernet/lanes.ts', 'failed.has(link.a.deviceId) || failed.has(link.b.deviceId) ||', '', 'a failed device still carries'],
  ['model/mtu.ts', 'const adds = six ? OVER_IPV6 : OVER_IPV4', 'const adds = OVER_IPV4', 'a tunnel by IPv6 has as much room as one by IPv4'],
  ['reach/passage.ts', 'const delivered = from.room === to.room', 'const delivered = true', 'the last wire always delivers'],
  ['reach/passage.ts', '?.find((face) => face.room === room)', '?.[0]', 'a gateway is heard wherever its address is known'],
  ['reach/cell.ts', 'cell.everywhere = intersect(cell.everywhere, passes)', 'cell.everywhere = union(cell.everywhere, passes)', 'what passes for one passes for all'],
  ['reach/grid.ts', 'eachShared(near.meant.from, near.meant.from, (i) => items.add(ifHeld(intents[i])))', '', 'a row is remembered although its intents changed'],
  ['reach/grid.ts', 'eachShared(from, from, (i) => items.add(ifHeld(list?.compiled.rules[i]?.rule)))', '', 'a row is remembered although its rules changed'],
  ['reach/memory.ts', 'row.cells[i] = undefined', '', 'a cell is remembered although somebody else stands in its column'],
  ['reach/memory.ts', 'if (rows[i]?.ways === ways) return', 'if (rows[i]) return', 'a row is remembered although somebody else stands in it'],
  ['reach/grid.ts', 'row.hangsOn = null\n', '', 'a row is remembered although a cell of it was asked under other rules'],
  ['reach/kinds.ts', '`${subject.id} ${address} ${turn}`', '`${subject.id} ${turn}`', 'a way is remembered although its addresses changed'],
  ['reach/passage.ts', 'return knownRoads(uplinks, [laid,', 'return knownRoads(uplinks, [', 'ways are remembered although an interface moved'],
  ['reach/passage.ts', 'tellWaysApart(index), services, groups, routes, policyRoutes, forwards, tunnels], () => ({}))', 'services, groups, policyRoutes, forwards, tunnels], () => ({}))', 'ways are remembered although a route changed'],
  ['policy/rules.ts', ', fixedAs(index)]', ']', 'what rules speak of is remembered although a device has another address'],
  ['reach/memory.ts', 'const of = [fixedAs(index), ...lots.keys]', 'const of = lots.keys', 'a cell is remembered although a device that a rule names has another address'],
  ['policy/sides.ts', 'tunnels, index.plan.routes, routedAs(index),', 'tunnels, routedAs(index),', 'sides are remembered although a route brings others'],
]

// One after another, until one fails: the property tests take longest, and most are caught before them.
const TESTS = [['core/ethernet', 'core/policy', 'core/reach', 'core/findings', 'core/model'], ['tests/property'], ['core/diagnose']]

/** Tries every mutant and writes `docs/mutants.md`; or those alone whose file or meaning holds a text, and writes nothing. Ends well where each was caught. */
export async function mutants(only = '') {
  const chosen = MUTANTS.filter(([file, , , meaning]) => `${file} ${meaning}`.includes(only))
  checkNode()
  await ensurePackages()
  await ensureTypes()
  const copy = mkdtempSync(join(tmpdir(), 'mast-mutants-'))
  for (const part of ['core', 'contracts', 'server', 'app', 'tests', 'vitest.config.ts', 'tsconfig.json', 'tsconfig.base.json', 'package.json', '.nuxt']) cpSync(join(ROOT, part), join(copy, part), { recursive: true })
  symlinkSync(join(ROOT, 'node_modules'), join(copy, 'node_modules'))
  const rows = []
  try {
    for (const [file, from, to, meaning] of chosen) {
      const path = join(copy, 'core', file)
      const text = readFileSync(path, 'utf8')
      const parts = text.split(from)
      if (parts.length < 2) {
        rows.push([file, meaning, 'NOT THERE'])
        say(`not there  ${file}: ${from}`)
        continue
      }
      writeFileSync(path, parts.join(to))
      let [code, output] = [0, '']
      for (const tests of TESTS) if (code === 0) ({ code, output } = await run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', '--project', 'unit', '--bail', '1', ...tests], { cwd: copy, quiet: true }))
      writeFileSync(path, text)
      const by = /FAIL\s+\|?unit\|?\s+(\S+\.test\.ts)/.exec(stripVTControlCharacters(output))?.[1] ?? ''
      rows.push([file, meaning, code === 0 ? 'NOT CAUGHT' : by])
      say(`${code === 0 ? 'NOT CAUGHT' : 'caught    '} ${file}: ${meaning}`)
    }
  } finally {
    rmSync(copy, { recursive: true, force: true })
  }
  const lost = rows.filter(([, , by]) => by.startsWith('NOT'))
  if (only === '') writeFileSync(join(ROOT, 'docs/mutants.md'), [
    '# Deliberate changes to the engine', '', `\`./mast mutants\` makes each of these ${rows.length} changes by itself, in a copy, and runs the unit and property tests until one fails.`,
    'The kernel twin is not asked. Written by that command.', '', '| in `core/` | what the engine would mean | caught by |', '| --- | --- | --- |', ...rows.map((r) => `| \`${r[0]}\` | ${r[1]} | ${r[2].startsWith('NOT') ? `**${r[2].toLowerCase()}**` : `\`${r[2]}\``} |`), '',
  ].join('\n'))
  say(`\n${rows.length - lost.length} of ${rows.length} caught`)
  return lost.length === 0 ? 0 : 1
}
