import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'addresses',
  lines: [
    'The ruler is the site’s block; ticks stand at powers of two, networks are lengths on it.',
    'Drag a length to move it, its right edge to resize it. It snaps to legal places; a collision says with what.',
    'By keyboard: arrows go from one free place to the next, Shift and an arrow doubles or halves.',
    'Plus and minus zoom; Ctrl and the wheel zoom at the pointer, Shift and the wheel move along.',
    'Dashed boxes are free, with the largest aligned subnet that fits.',
    'The finer ruler below is one network: gateway, static, reserved, pool, free.',
    'A magenta line shows where a gateway was typed by mistake.',
    'Clients: the share that finds the pool empty, by pool size and lease (Erlang B).',
  ],
})
