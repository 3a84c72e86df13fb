/** Comparisons of a value that was computed with a limit that was set: what differs by rounding alone counts as equal, so that exactly on a limit is on it. */
const ROUNDING = 1e-9;

export const atMost = (value: number, limit: number): boolean => value <= limit + ROUNDING;
export const atLeast = (value: number, limit: number): boolean => value >= limit - ROUNDING;
export const above = (value: number, limit: number): boolean => value > limit + ROUNDING;
export const below = (value: number, limit: number): boolean => value < limit - ROUNDING;
