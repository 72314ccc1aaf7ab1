/** What goes with a permission to send, in the words that one reads. */
export const cautionsOf = ({
  dfs,
  indoorOnly,
}: {
  readonly dfs: boolean
  readonly indoorOnly: boolean
}): string[] => [...(indoorOnly ? ['indoors only'] : []), ...(dfs ? ['looks for radar (DFS)'] : [])]
