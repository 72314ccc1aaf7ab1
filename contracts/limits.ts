// Limits that both the application and its server keep; what reads whole documents is not loaded for them.

/** Longest JPEG of a step, bytes; browsers scale it down before. */
export const MOST_PHOTO_BYTES = 400_000

/** Lines of the audit that are told at once. */
export const AUDIT_PAGE = 100

/** Characters of a password; NIST SP 800-63B, 5.1.1, wants at least 8, and at least 64 allowed (from memory). */
export const LEAST_PASSWORD = 10
export const MOST_PASSWORD = 200
/**
 * Tries that a password must outlast: 10^8 is the estimator's mark 3 of 4, "safely unguessable" where a slow hash
 * guards it (D. L. Wheeler, zxcvbn, USENIX Security 2016).
 */
export const LEAST_GUESSES = 1e8
/** Sites that are told at once; whoever wants more asks on from the last (practice). */
export const SITES_PAGE = 100
