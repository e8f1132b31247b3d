type Send<Question, Answer> = (question: Question, signal: AbortSignal) => Promise<Answer>;
type Take<Question, Answer> = (question: Question, answer: Answer | null, error: unknown) => void;
type Options<Question> = {
  /** Requests that run at the same time. */
  atOnce?: number;
  /** Whether the request of a question is cancelled as soon as there is a newer one. */
  yields?: (question: Question) => boolean;
};

/**
 * Send requests of which only the newest matters, such as during a drag. While requests run, only the newest later
 * question is kept. Answers arrive in order: an older answer than the last one is dropped.
 */
export class Newest<Question, Answer> {
  private waiting: { question: Question } | null = null;
  private running = new Map<number, { question: Question; controller: AbortController }>();
  private asked = 0;
  private taken = 0;

  constructor(
    private readonly send: Send<Question, Answer>,
    private readonly take: Take<Question, Answer>,
    private readonly options: Options<Question> = {},
  ) {}

  ask(question: Question) {
    this.waiting = { question };
    for (const [number, { question: older }] of this.running)
      if (this.options.yields?.(older)) this.cancel(number);
    this.next();
  }

  /** Drop the question that waits, and cancel all requests. */
  drop() {
    this.waiting = null;
    for (const number of this.running.keys()) this.cancel(number);
  }

  private cancel(number: number) {
    this.running.get(number)?.controller.abort();
    this.running.delete(number);
  }

  private async next() {
    if (!this.waiting || this.running.size >= (this.options.atOnce ?? 1)) return;
    const { question } = this.waiting;
    const controller = new AbortController();
    const number = ++this.asked;
    this.waiting = null;
    this.running.set(number, { question, controller });
    const [answer, error] = await this.send(question, controller.signal).then(
      (given) => [given, null] as const,
      (problem: unknown) => [null, problem] as const,
    );
    const cancelled = !this.running.delete(number);
    if (!cancelled && number > this.taken) {
      this.taken = number;
      this.take(question, answer, error);
    }
    this.next();
  }
}
