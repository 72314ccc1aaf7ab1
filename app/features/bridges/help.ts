import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'bridges',
  lines: [
    'The drawing: ground and what stands on it, the straight line, and the first Fresnel zone around it.',
    'Free: what is left of the zone at a surveyed point. 60 % is wanted at usual refraction.',
    'The balance: what a transmitter sends, what is lost and gained on the way, and what arrives.',
    'Rain: the rate that falls, or more, for 0.01 % of a year, 53 minutes. Look it up for the place, or type its ' +
      'rain zone (ITU-R P.837-1), A to Q: K is 42 mm/h.',
    'Fade margin: what is to be left, in rain, over the least level at which a rate is received.',
    'All of it is an estimate: a reading on site replaces it.',
  ],
})
