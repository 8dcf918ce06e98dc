/** How far the jobs are that run in this process: when each began, and which share of it is done. */
export class Progress {
  private readonly running = new Map<number, { since: number; share: number | null }>();

  begin(id: number): void {
    this.running.set(id, { since: Date.now(), share: null });
  }

  tell(id: number, share: number): void {
    const known = this.running.get(id);
    if (known) known.share = Math.max(0, Math.min(1, share));
  }

  end(id: number): void {
    this.running.delete(id);
  }

  of(id: number): { seconds: number; share: number | null } | undefined {
    const known = this.running.get(id);
    return known && { seconds: (Date.now() - known.since) / 1000, share: known.share };
  }
}
