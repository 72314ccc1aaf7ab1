/** What is rarer than once in so many years no plan can promise. */
const BEYOND_YEARS = 10_000

/** How often something happens, of a number a year. Worked: 0.02 -> one in 50 years. */
export function rateWords(perYear: number): string {
  if (perYear === 0) return 'none'
  if (perYear < 1 / BEYOND_YEARS) return `less than once in ${BEYOND_YEARS.toLocaleString('en')} years`
  if (perYear < 0.1) return `one in ${Math.round(1 / perYear).toLocaleString('en')} years`
  if (perYear < 10) return `${Math.round(perYear * 10) / 10} a year`
  return `${Math.round(perYear).toLocaleString('en')} a year`
}
