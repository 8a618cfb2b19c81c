/** What comes with every status that is no success. */
export interface ProblemAnswer {
  /** one sentence for people: what is wrong and what to do */
  readonly message: string;
}
