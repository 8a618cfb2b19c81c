/** How Chromium is started for tests, benchmarks and screenshots. */
export const CHROMIUM_ARGS: readonly string[];
