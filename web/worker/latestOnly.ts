/**
 * Runs one piece of work at a time and, of all that is asked for meanwhile, only the last: a slider moved quickly costs
 * one picture per finished picture, and what is shown last is what was asked last.
 */
export function latestOnly(): (work: () => Promise<void>) => void {
  let running = false;
  let waiting: (() => Promise<void>) | undefined;
  const run = async (work: () => Promise<void>): Promise<void> => {
    running = true;
    for (let next: (() => Promise<void>) | undefined = work; next; next = waiting) {
      waiting = undefined;
      await next().catch((error: Error) => console.error(error));
      if (!waiting) break;
    }
    running = false;
  };
  return (work) => {
    if (running) waiting = work;
    else void run(work);
  };
}
