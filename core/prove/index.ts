export { isFromOutside, vantageProblem } from './vantage'
export { proofOfCell, testsOf, tryTests } from './tests'
export type { AcceptanceTest, CellProof } from './tests'
