// Question: how high is something whose height was typed in feet where metres are asked for?
// Source: the international foot of 1959, 0.3048 m.
const M_PER_FOOT = 0.3048

/** In m, to a tenth. 9 feet: 2.7. */
export const ifFeetM = (typed: number): number => Math.round(10 * typed * M_PER_FOOT) / 10
