/** How far a command is, on one line of a terminal that is written over; nothing where its output goes elsewhere. */
export class ProgressLine {
  private last = 0;
  private width = 0;
  constructor(private readonly stream: NodeJS.WriteStream = process.stderr) {}

  /** Says how far it is; now and then is enough. */
  say(text: string): void {
    if (!this.stream.isTTY || Date.now() - this.last < 100) return;
    this.last = Date.now();
    const cut = text.slice(0, Math.max(20, (this.stream.columns ?? 80) - 1));
    this.stream.write(`\r${cut.padEnd(this.width)}`);
    this.width = cut.length;
  }

  /** Takes the line away. */
  clear(): void {
    if (!this.stream.isTTY || !this.width) return;
    this.stream.write(`\r${' '.repeat(this.width)}\r`);
    this.width = 0;
  }
}

/** Bytes as people read them. */
export const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;
