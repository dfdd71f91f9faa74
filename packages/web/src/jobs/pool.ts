import * as Comlink from 'comlink';
import { PRIORITY, type Answer, type AnswerOf, type Priority } from './job.ts';
import type { Questions, WorkerApi } from './worker.ts';

export interface AskOptions {
  /** stops the question: taken out of the line, or broken off at its next yield */
  signal?: AbortSignal;
  priority?: Priority;
  onProgress?(share: number): void;
  /** what it is about: a worker that knew it last is asked again, since it keeps runs */
  about?: string;
}

interface Waiting {
  name: keyof Questions;
  args: unknown[];
  options: AskOptions;
  priority: Priority;
  done(answer: Answer<unknown>): void;
}

interface Seat {
  remote: Comlink.Remote<WorkerApi>;
  worker: Worker;
  busy: ((answer: Answer<unknown>) => void) | undefined;
  about: string | undefined;
  /** seconds of the page's own clock since it was last heard of while it is asked something */
  silent: number;
  /** goes of warming up it has begun, and [ms] how long they took */
  warmed: number;
  warming: number;
}

/** Workers: one for what is in sight, one beside it. */
const SEATS = 2;
/**
 * [ms] The second starts when nothing is asked, or when the first has been answering for so long: until its code is
 * compiled it takes more from the first than it does itself.
 */
const ALONE = 300;
/** Goes of warming up, some hundredths of a second each, while nothing is asked: so many at most. */
const GOES = 10;
/** [ms] No more of them once a worker has spent so long at it: what a person then asks is as quick as it gets. */
const WARM = 300;

/**
 * [s] A worker that has not been heard of for so long is given up: every question gives way, or takes a second of processor
 * time at most. Counted by the page's own ticks, so that a machine that sleeps, or has much else to do, takes nothing from it.
 */
const PATIENCE = 15;
const STUCK =
  'It took too long and was given up: this thread asks for more than can be worked out. Simplify what was changed last, or undo it.';

/** Set by who opens many pages one after the other and measures none of them. */
const COLD = 'mileThreadCold' in globalThis;

/** A line of questions before a few workers: the most urgent first, then the oldest. */
export class Pool {
  private readonly seats: Seat[] = [];
  private line: Waiting[] = [];
  private tickets = 0;
  private firstAnswer: number | undefined;
  /** why there are no workers at all */
  private refused: string | undefined;

  /** @param tick [ms] a second of patience, shorter for tests */
  constructor(
    private readonly make: () => Worker,
    tick = 1000,
  ) {
    try {
      this.seats.push(this.seat());
    } catch (error) {
      this.refused = `This browser does not let the page work in the background (${(error as Error).message}), and nothing can be worked out without: allow workers for it, or use another browser.`;
    }
    const timer: unknown = setInterval(() => this.look(), tick);
    // Nothing of it keeps a process of tests from ending.
    (timer as { unref?(): void }).unref?.();
  }

  /** Give up the workers that are asked something and have been silent for too long. */
  private look(): void {
    for (const seat of this.seats) {
      if (seat.busy === undefined) continue;
      const { worker } = seat;
      if (++seat.silent > PATIENCE) this.replace(seat, STUCK);
      else
        void seat.remote
          .hears()
          .then(() => seat.worker === worker && (seat.silent = 0))
          .catch(() => undefined);
    }
  }

  /** @throws Error with the core's message; an AbortError where it was stopped */
  ask<N extends keyof Questions>(
    name: N,
    args: Parameters<Questions[N]>,
    options: AskOptions = {},
  ): Promise<AnswerOf<Questions[N]>> {
    return new Promise((resolve, reject) => {
      const { signal, priority = PRIORITY.sight } = options;
      const abort = () => reject(new DOMException('stopped', 'AbortError'));
      if (signal?.aborted) return abort();
      if (this.refused !== undefined) return reject(new Error(this.refused));
      const done = (answer: Answer<unknown>) => {
        if (answer.ok) resolve(answer.value as AnswerOf<Questions[N]>);
        else if (answer.stopped) abort();
        else reject(new Error(answer.message));
      };
      const waiting = { name, args, options, priority, done };
      signal?.addEventListener('abort', () => {
        this.line = this.line.filter((w) => w !== waiting);
        abort();
      });
      this.line.push(waiting);
      this.serve();
    });
  }

  private seat(): Seat {
    const seat = { busy: undefined, about: undefined, silent: 0, warmed: 0, warming: 0 };
    return this.staff(seat as unknown as Seat);
  }

  /** Give a seat a worker. @throws what the browser has against workers */
  private staff(seat: Seat): Seat {
    const worker = this.make();
    worker.onerror = (event) => {
      event.preventDefault();
      if (seat.worker === worker)
        this.replace(seat, event.message || 'it could not be loaded; reload the page');
    };
    return Object.assign(seat, { worker, remote: Comlink.wrap<WorkerApi>(worker) });
  }

  /** A worker that broke, or is silent, is no use any more; what it was asked is told so, the others are asked anew. */
  private replace(seat: Seat, message: string): void {
    const { busy, warmed } = seat;
    seat.worker.terminate();
    // One that has never answered would break again.
    if (warmed > 0 || busy) this.staff(Object.assign(seat, { busy: undefined, silent: 0, warmed: GOES }));
    busy?.({ ok: false, message });
    this.serve();
  }

  private serve(): void {
    for (;;) {
      if (this.line.length === 0) return this.warm();
      const next = this.line.reduce((a, b) => (b.priority < a.priority ? b : a));
      const free = this.seats.filter((s) => s.busy === undefined);
      const seat = free.find((s) => s.about !== undefined && s.about === next.options.about) ?? free[0];
      if (!seat) return;
      this.line = this.line.filter((w) => w !== next);
      void this.give(seat, next);
    }
  }

  private async give(seat: Seat, { name, args, options, done }: Waiting): Promise<void> {
    const ticket = ++this.tickets;
    const { signal, onProgress, about } = options;
    const stop = () => void seat.remote.stop(ticket);
    signal?.addEventListener('abort', stop);
    seat.busy = done;
    seat.silent = 0;
    seat.about = about ?? seat.about;
    const progress = onProgress && Comlink.proxy(onProgress);
    const answer = await seat.remote
      .ask(ticket, name, args, progress)
      .catch((error: unknown): Answer<unknown> => ({ ok: false, message: (error as Error).message }));
    signal?.removeEventListener('abort', stop);
    if (seat.busy === done) seat.busy = undefined;
    done(answer);
    if (answer.ok && answer.took !== undefined) {
      if (name === 'warm' && (seat.warming += answer.took) > WARM) seat.warmed = GOES;
      const end = performance.now();
      performance.measure(`mile-thread:${name}, the worker itself`, { start: end - answer.took, end });
    }
    this.firstAnswer ??= performance.now();
    if (
      this.seats.length < SEATS &&
      (this.line.length === 0 || performance.now() - this.firstAnswer > ALONE)
    ) {
      this.seats.push(this.seat());
      // Not asked by a person until it has run something.
      this.warm(this.seats.at(-1));
    }
    this.serve();
  }

  /**
   * While nothing is asked, workers get ready for what will be; never before the first question. One at a time: with two
   * cores the other is the page's.
   */
  private warm(only?: Seat): void {
    if (COLD || this.tickets === 0 || (!only && this.seats.some((s) => s.busy !== undefined))) return;
    const seat = only ?? this.seats.find((s) => s.warmed < GOES);
    if (!seat) return;
    void this.give(seat, {
      name: 'warm',
      args: [seat.warmed++],
      options: {},
      priority: PRIORITY.idle,
      done: () => {},
    });
  }
}
