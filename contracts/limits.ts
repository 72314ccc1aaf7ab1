// Limits that both the application and its server keep; what reads whole documents is not loaded for them.

/** Longest JPEG of a step, bytes; browsers scale it down before. */
export const MOST_PHOTO_BYTES = 400_000
