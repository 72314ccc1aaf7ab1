// What is told of cells that cannot be pasted.

export const OUTSIDE_TABLE = 'The cells do not fit here: they reach past the table.'
export const columnNotTyped = (at: string): string => `${at}: this column is not typed.`
