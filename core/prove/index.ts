export { isFromOutside, vantageProblem } from './vantage'
export { countPassTests, MOST_TESTS, proofOfCell, testsOf, tryTests } from './tests'
export type { AcceptanceTest, CellProof } from './tests'
