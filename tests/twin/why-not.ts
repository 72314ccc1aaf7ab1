// What the twin needs of the machine that it runs on.
import { appendFileSync } from 'node:fs'
import { bash, run } from './shell'

/** Says what is skipped and why; also for the closing line of the whole run, where that asks for it. */
export function saySkipped(what: string, why: string): void {
  console.log(`skipped: ${what}, since ${why}`)
  const file = process.env['MAST_SKIPPED_FILE']
  if (file) appendFileSync(file, `${what}, since ${why}\n`)
}

/** Why the twin cannot run here; null where it can. */
export async function whyNot(): Promise<string | null> {
  if (process.getuid?.() !== 0) return 'it needs root for network namespaces'
  for (const [program, args] of [
    ['ip', ['-V']],
    ['nft', ['--version']],
    ['dnsmasq', ['--version']],
    ['udhcpc', ['--help']],
    ['fping', ['--version']],
    ['perl', ['-v']],
  ] as const) {
    if (!(await isThere(program, args))) return `${program} is not installed`
  }
  const probe = `mast-probe-${process.pid}`
  const works = await bash([
    '-c',
    `ip netns add ${probe} && ip -n ${probe} link add name br0 type bridge && ip -n ` +
      `${probe} link add name va0 type veth peer name vb0 && ip netns exec ${probe} nft add ` +
      `table inet t; R=$?; ip netns del ${probe}; exit $R`,
  ]).then(
    () => true,
    () => false,
  )
  return works ? null : 'this kernel gives no namespaces with bridges, veth and nftables'
}

const isThere = (program: string, args: readonly string[]) =>
  run(program, [...args]).then(
    () => true,
    (e: { code?: unknown }) => e.code !== 'ENOENT',
  )

/** Why real tags cannot be tried here; null where they can. */
export async function whyNoTags(): Promise<string | null> {
  for (const program of ['ovs-vsctl', 'ovs-vswitchd', 'ethtool'])
    if (!(await isThere(program, ['--version']))) return `${program} is not installed`
  return null
}

/** Why tunnels cannot be tried here; null where they can. */
export async function whyNoTunnels(): Promise<string | null> {
  for (const program of ['wireguard-go', 'wg'])
    if (!(await isThere(program, ['--version']))) return `${program} is not installed`
  const probe = `mast-tun-${process.pid}`
  const works = await bash([
    '-c',
    `ip netns add ${probe} && ip netns exec ${probe} bash -ec 'mkdir -p /run/wireguard; ` +
      'mount -t tmpfs tmpfs /run/wireguard; WG_I_PREFER_BUGGY_USERSPACE_TO_POLISHED_KMOD=1 ' +
      `wireguard-go wg0 >/dev/null 2>&1; wg show wg0 >/dev/null'; R=$?; ip netns pids ` +
      `${probe} | xargs -r kill; ip netns del ${probe}; exit $R`,
  ]).then(
    () => true,
    () => false,
  )
  return works ? null : 'there is no /dev/net/tun that wireguard-go could use'
}
