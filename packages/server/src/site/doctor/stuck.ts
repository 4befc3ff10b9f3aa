/** Seconds from which on what waits for a worker is stuck. */
export const STUCK_S = 600;
