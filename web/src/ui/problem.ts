/** What the server says when something went wrong: what happened, to which clip, what to do next. */
export class Problem extends Error {
  constructor(
    readonly title: string,
    readonly remedy: string,
    readonly clip: string | null,
    readonly status: number,
    readonly changed: string[] = [],
    readonly uses: string[] = [],
  ) {
    super(title);
  }
}
