/** What node is started with for the server to run: its own words, then the file. */
export const SERVER_PROGRAM: readonly string[];
