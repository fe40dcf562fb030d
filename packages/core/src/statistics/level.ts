/** Error rate over all that is tested together, and of the intervals that are given: 5 %. */
export const LEVEL = 0.05;
