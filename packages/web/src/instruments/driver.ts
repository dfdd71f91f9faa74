import { InstrumentError, type Line } from './line.ts';

/** What an instrument is, in the words of its own answer. */
export interface Identity {
  maker: string;
  model: string;
  serial: string;
}

export const ROLES = ['meter', 'load', 'supply', 'charger'] as const;
export type Role = (typeof ROLES)[number];
export type Quantity = 'volts' | 'amps';

/** What a person allows an instrument to do at most. [V] [A] */
export interface Limits {
  volts: number;
  amps: number;
}

/** [ms] an answer may take. */
const TIMEOUT = 3000;
const UNIT = { volts: 'V', amps: 'A' } as const;
const HEADER = { volts: 'VOLT', amps: 'CURR' } as const;

interface Waiting {
  done(line: string): void;
  failed(error: InstrumentError): void;
  timer: ReturnType<typeof setTimeout>;
}

/**
 * An instrument behind a line, by text commands in the manner of SCPI (IEEE 488.2 common commands, from memory): one question at a
 * time, each with its answer or an error that says what to do. What comes late is thrown away before the next question.
 */
export class Instrument {
  private rest = '';
  private waiting: Waiting | undefined;
  private queue: Promise<unknown> = Promise.resolve();
  private stale = false;
  private lost = false;

  /** @param timeout [ms] */
  constructor(
    readonly role: Role | 'hands',
    private readonly line: Line,
    readonly limits: Limits = { volts: Infinity, amps: Infinity },
    private readonly timeout = TIMEOUT,
  ) {
    line.onText((text) => this.take(text));
    line.onClose(() => this.gone());
  }

  /** What a person is told of a line that is gone. */
  get goneWords(): string {
    return this.line.endsOff ? LOST : PULLED;
  }

  /** Whether what it had on may still be on once its line is gone. */
  get leavesOn(): boolean {
    return !this.line.endsOff && this.role !== 'meter';
  }

  get closed(): boolean {
    return this.lost;
  }

  /** Who it is. */
  async identify(): Promise<Identity> {
    const [maker = '', model = '', serial = ''] = (await this.ask('*IDN?')).split(',').map((s) => s.trim());
    if (model === '') {
      throw new InstrumentError(
        'unreadable',
        'What answers is no instrument that says who it is; check the baud rate.',
      );
    }
    return { maker, model, serial };
  }

  /** Set a value and hear whether it was taken. */
  async set(what: Quantity, value: number): Promise<void> {
    const most = this.limits[what];
    if (value > most) {
      throw new InstrumentError(
        'beyond',
        `${value} ${UNIT[what]} is above the limit of ${most} ${UNIT[what]} that was set for it; raise the limit first if you mean it.`,
      );
    }
    await this.tell(`SOUR:${HEADER[what]} ${value}`);
  }

  /** Output on or off; on only within its limits. */
  async output(on: boolean): Promise<void> {
    await this.tell(`${this.role === 'load' ? 'INP' : 'OUTP'} ${on ? 'ON' : 'OFF'}`);
  }

  /** [V or A] now */
  async read(what: Quantity): Promise<number> {
    return this.number(`MEAS:${HEADER[what]}?`);
  }

  /** A number to a question. */
  async number(question: string): Promise<number> {
    const answer = await this.ask(question);
    const value = Number(answer);
    if (answer.trim() === '' || !Number.isFinite(value)) {
      throw new InstrumentError(
        'unreadable',
        `It answered “${answer.slice(0, 40)}” where a number was asked for.`,
      );
    }
    return value;
  }

  /** Several numbers to a question, parted by commas. @param count how many there must be */
  async numbers(question: string, count: number): Promise<number[]> {
    const answer = await this.ask(question);
    const values = answer.split(',').map(Number);
    if (values.length === count && values.every(Number.isFinite)) return values;
    throw new InstrumentError(
      'unreadable',
      `It answered “${answer.slice(0, 40)}” where ${count} numbers were asked for.`,
    );
  }

  /** A command, and what it has to say of it. */
  async tell(command: string): Promise<void> {
    const answer = await this.ask(`${command}\nSYST:ERR?`);
    const [, code = '0', words = answer] = /^\s*([-+]?\d+)\s*,\s*"?(.*?)"?\s*$/.exec(answer) ?? [];
    if (Number(code) !== 0)
      throw new InstrumentError('refused', `It refused ${command.split(' ')[0]}: ${words}.`);
  }

  /**
   * Read again and again, the next not before the last has come. @param every [ms] at least
   * @returns what ends it
   */
  stream(
    every: number,
    onReading: (what: Quantity, value: number) => void,
    onTrouble: (error: InstrumentError) => void,
    quantities: readonly Quantity[] = ['volts', 'amps'],
  ): () => void {
    let on = true;
    const turn = async () => {
      while (on) {
        const next = pause(every);
        try {
          for (const what of quantities) {
            const value = await this.read(what);
            if (on) onReading(what, value);
          }
        } catch (error) {
          if (!on) return;
          onTrouble(error as InstrumentError);
          if (this.lost) return;
        }
        await next;
      }
    };
    void turn();
    return () => (on = false);
  }

  /** Output off at once, before whatever waits in line; heard of afterwards. */
  async stop(): Promise<void> {
    if (this.lost || this.role === 'meter') return;
    this.line.send(this.role === 'load' ? 'INP OFF\n' : this.role === 'hands' ? 'LOADS off\n' : 'OUTP OFF\n');
  }

  /** End the line, its output off before. */
  async close(): Promise<void> {
    await this.stop();
    this.line.close();
  }

  /** One question and its line of answer. */
  ask(question: string): Promise<string> {
    const next = this.queue.then(async () => {
      if (this.stale) await this.settle();
      return this.once(question);
    });
    this.queue = next.catch(() => undefined);
    return next;
  }

  private once(question: string): Promise<string> {
    return new Promise((resolve, reject) => {
      if (this.lost) return reject(new InstrumentError('lost', this.goneWords));
      const timer = setTimeout(() => {
        this.waiting = undefined;
        this.stale = true;
        const half = this.rest !== '';
        this.rest = '';
        reject(
          half
            ? new InstrumentError(
                'half',
                'Half a line came and no more: a bad contact, or another baud rate.',
              )
            : new InstrumentError(
                'late',
                `No answer within ${this.timeout / 1000} s: is it on, and set to be remote controlled?`,
              ),
        );
      }, this.timeout);
      this.waiting = { done: resolve, failed: reject, timer };
      this.line.send(`${question}\n`);
    });
  }

  /** After an answer that did not come in time: whatever comes before it says who it is belongs to old questions. */
  private async settle(): Promise<void> {
    this.stale = false;
    let answer = await this.once('*IDN?');
    for (let k = 0; k < 5 && answer.split(',').length < 3; k++) answer = await this.listen();
  }

  private listen(): Promise<string> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting = undefined;
        this.stale = true;
        reject(new InstrumentError('late', `It answers, but not to what is asked: switch it off and on.`));
      }, this.timeout);
      this.waiting = { done: resolve, failed: reject, timer };
    });
  }

  private take(text: string): void {
    this.rest += text;
    for (let end = this.rest.indexOf('\n'); end >= 0; end = this.rest.indexOf('\n')) {
      const line = this.rest.slice(0, end).replace(/\r$/, '');
      this.rest = this.rest.slice(end + 1);
      const { waiting } = this;
      // What nobody asked for, or no longer.
      if (!waiting) continue;
      this.waiting = undefined;
      clearTimeout(waiting.timer);
      waiting.done(line);
    }
  }

  private gone(): void {
    this.lost = true;
    const { waiting } = this;
    this.waiting = undefined;
    if (!waiting) return;
    clearTimeout(waiting.timer);
    waiting.failed(new InstrumentError('lost', this.goneWords));
  }
}

const LOST = 'The connection is gone; what it had on is off. Connect it again.';
const PULLED =
  'The cable is gone, and what it had on may still be on: switch it off at the instrument. Then connect it again.';

function pause(ms: number): Promise<void> {
  return new Promise((done) => setTimeout(done, ms));
}
