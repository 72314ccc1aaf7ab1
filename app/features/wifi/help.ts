import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'wifi',
  lines: [
    'The drawing: rooms as they lie, access points, and lines of equal signal at −55, −65 and −75 dBm.',
    'Worst tenth: nine tenths of a room have more than this. −65 dBm is 70 %, −75 dBm is 50 %.',
    'Second: the same of the next access point; to roam about −70 dBm of it are wanted.',
    'Channels: chosen so that radios hear each other least; why is said beside each.',
    'Permitted: from the open regulatory database, with its date. Check the local rule.',
    'All of it is an estimate, 8 dB wide: a reading on site replaces it.',
  ],
})
