/** Cache of photographs of steps: those of everybody, for a place without a network. */
export const PHOTOS_KEPT = 'step-photos'
/** Newest of a site that are kept: some 20 MB at most. */
export const MOST_KEPT_PHOTOS = 50
