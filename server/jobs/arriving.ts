/** Whether files are coming in just now; work that can wait leaves them room. */
export class Arriving {
  private open = 0;
  private last = -Infinity;

  /** @param pause ms between two files of one go. @param now as `performance.now`. */
  constructor(
    private readonly pause = 1500,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** While this is done, a file comes in. */
  async while<T>(work: () => Promise<T>): Promise<T> {
    this.open++;
    try {
      return await work();
    } finally {
      this.open--;
      this.last = this.now();
    }
  }

  get busy(): boolean {
    return this.open > 0 || this.now() - this.last < this.pause;
  }
}
