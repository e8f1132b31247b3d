type Take<Question, Answer> = (question: Question, answer: Answer | null, error: unknown) => void;

/**
 * Ask questions of which only the newest matters, such as while something is dragged. At most `atOnce` are on their way;
 * of those that come meanwhile only the newest is asked. Answers arrive in order: an overtaken one is dropped.
 */
export class Newest<Question, Answer> {
  private waiting: { question: Question } | null = null;
  private onTheWay = 0;
  private asked = 0;
  private taken = 0;

  constructor(
    private readonly send: (question: Question) => Promise<Answer>,
    private readonly take: Take<Question, Answer>,
    private readonly atOnce = 1,
  ) {}

  ask(question: Question) {
    this.waiting = { question };
    this.next();
  }

  /** Drop the question that waits and the answers that are on their way. */
  drop() {
    this.waiting = null;
    this.taken = this.asked;
  }

  private async next() {
    if (!this.waiting || this.onTheWay >= this.atOnce) return;
    const { question } = this.waiting;
    this.waiting = null;
    this.onTheWay++;
    const number = ++this.asked;
    const [answer, error] = await this.send(question).then(
      (given) => [given, null] as const,
      (problem: unknown) => [null, problem] as const,
    );
    this.onTheWay--;
    if (number > this.taken) {
      this.taken = number;
      this.take(question, answer, error);
    }
    this.next();
  }
}
