/** A line to an instrument: text both ways, a line ends with a line feed. */
export interface Line {
  /** whether what is behind it takes its output off by itself when the line ends: a pulled cable switches nothing */
  readonly endsOff: boolean;
  send(text: string): void;
  /** pieces of text as they come, perhaps half a line */
  onText(listener: (text: string) => void): void;
  onClose(listener: () => void): void;
  close(): void;
}

/** What can be wrong with an instrument. */
export type Trouble = 'late' | 'half' | 'refused' | 'unreadable' | 'lost' | 'taken' | 'beyond' | 'reversed';

/** An instrument does not do as it should: which way, and what a person can do. */
export class InstrumentError extends Error {
  constructor(
    readonly trouble: Trouble,
    message: string,
  ) {
    super(message);
  }
}
