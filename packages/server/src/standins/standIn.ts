import type { Role } from './roles.ts';
import { Display, type Errors } from './meter.ts';
import type { Place, World } from './world.ts';

/** A bench meter, and what a load and a supply say of themselves. Common practice, no source. */
const METER: Errors = { accuracy: 0.001, noise: 0.0001, counts: 20_000 };
const OWN: Errors = { accuracy: 0.005, noise: 0.0004, counts: 10_000 };
/** [Ω] of both leads of a load and their clips: it reads its own volts behind them. Common practice, no source. */
const LEADS = 0.035;
/** What each takes and gives at most. */
const MOST = { load: { amps: 20, watts: 150 }, supply: { volts: 60, amps: 10 } } as const;

const OK = '0,"No error"';
/** Errors kept until they are asked for. */
const MOST_ERRORS = 20;
const OVERFLOW = '-350,"Queue overflow"';

/** Text commands of one stand-in, in the manner of SCPI: a header, perhaps a `?`, perhaps a value. */
export abstract class StandIn {
  private errors: string[] = [];

  constructor(
    readonly role: Role,
    protected readonly world: World,
    protected readonly seed: number,
  ) {}

  /** One line. @returns the answer of a question; nothing of a command */
  handle(line: string): string | undefined {
    const [, head = '', rest = ''] = /^(\S+)\s*(.*)$/.exec(line.trim()) ?? [];
    const command = head.toUpperCase();
    if (command === '') return undefined;
    if (command === '*IDN?') return `Mile Thread,stand-in ${this.role},${this.seed},1`;
    if (command === '*RST') {
      this.stop();
      return undefined;
    }
    if (command === 'TIME?') return this.world.seconds().toFixed(3);
    if (command === 'SYST:ERR?') return this.errors.shift() ?? OK;
    const answer = this.answer(command, rest.trim());
    if (answer === UNKNOWN) {
      this.fail(-113, 'Undefined header');
      return command.endsWith('?') ? 'NAN' : undefined;
    }
    return answer;
  }

  /** Output off. */
  stop(): void {
    // What has no output has nothing to take off.
  }

  protected abstract answer(command: string, rest: string): string | undefined | typeof UNKNOWN;

  protected fail(code: number, words: string): undefined {
    // The queue is full: its last entry says so, and what comes then is lost (SCPI 1999, 21.8.1, from memory).
    if (this.errors.length < MOST_ERRORS) this.errors.push(`${code},"${words}"`);
    else this.errors[MOST_ERRORS - 1] = OVERFLOW;
    return undefined;
  }

  /** A number within what it does; undefined and an error where it is not. */
  protected number(text: string, most: number): number | undefined {
    const value = Number(text);
    if (text === '' || !Number.isFinite(value)) return this.fail(-120, 'Numeric data error');
    return value >= 0 && value <= most ? value : this.fail(-222, `Data out of range; 0 to ${most}`);
  }

  /** The place a word means; undefined and an error where there is none. */
  protected place(word: string): Place | undefined {
    return this.world.knows(word) ? word : this.fail(-224, 'Illegal parameter value; no such place');
  }

  protected onOff(text: string): boolean | undefined {
    if (/^(ON|1)$/i.test(text)) return true;
    return /^(OFF|0)$/i.test(text) ? false : this.fail(-224, 'Illegal parameter value; ON or OFF');
  }
}

const UNKNOWN = Symbol('unknown');
const told = (value: number) => value.toExponential(5);

/** An electronic load that keeps a current. */
export class LoadStandIn extends StandIn {
  private amps = 0;
  private on = false;
  private at: Place = 'pack';
  private readonly volts = new Display(OWN, this.seed + 11);
  private readonly current = new Display(OWN, this.seed + 12);

  protected answer(command: string, rest: string) {
    switch (command) {
      case 'SOUR:CURR': {
        const amps = this.number(rest, MOST.load.amps);
        if (amps !== undefined) this.amps = amps;
        return this.put();
      }
      case 'SOUR:CURR?':
        return told(this.amps);
      case 'INP':
        this.on = this.onOff(rest) ?? this.on;
        return this.put();
      case 'INP?':
        return this.on ? '1' : '0';
      case 'LEADS': {
        this.at = this.place(rest) ?? this.at;
        return this.put();
      }
      case 'MEAS:VOLT?': {
        const { volts } = this.world.at(this.at);
        return told(this.volts.show(Math.max(0, volts - (this.on ? this.amps * LEADS : 0))));
      }
      case 'MEAS:CURR?':
        return told(this.on && this.world.at(this.at).volts > 0.05 ? this.current.show(this.amps) : 0);
      default:
        return UNKNOWN;
    }
  }

  override stop(): void {
    this.on = false;
    this.put();
  }

  private put(): undefined {
    this.world.set({ draws: this.on ? { at: this.at, amps: this.amps } : undefined });
    return undefined;
  }
}

/** A multimeter: volts between a place and the minus pole, or the current through it. */
export class MeterStandIn extends StandIn {
  private amps = false;
  private at: Place = 'pack';
  private readonly volts = new Display(METER, this.seed + 21);
  private readonly current = new Display({ ...METER, accuracy: 0.002 }, this.seed + 22);

  protected answer(command: string, rest: string) {
    switch (command) {
      case 'CONF:VOLT':
      case 'CONF:CURR':
        this.amps = command.endsWith('CURR');
        return undefined;
      case 'LEADS':
        this.at = this.place(rest) ?? this.at;
        return undefined;
      case 'READ?':
        return told(this.read(this.amps));
      // Time, volts and current of one instant.
      case 'READ:ALL?':
        return [this.world.seconds().toFixed(3), told(this.read(false)), told(this.read(true))].join(',');
      case 'MEAS:VOLT?':
      case 'MEAS:CURR?':
        return told(this.read(command.includes('CURR')));
      case 'ACC?':
        return told(this.amps ? 0.002 : 0.001);
      default:
        return UNKNOWN;
    }
  }

  private read(amps: boolean): number {
    const at = this.world.at(this.at);
    return amps ? this.current.show(at.amps) : this.volts.show(at.volts);
  }
}

/** A bench supply in the place of the pack. */
export class SupplyStandIn extends StandIn {
  private volts = 0;
  private limit = 1;
  private on = false;
  private readonly shown = new Display(OWN, this.seed + 31);

  protected answer(command: string, rest: string) {
    switch (command) {
      case 'SOUR:VOLT': {
        this.volts = this.number(rest, MOST.supply.volts) ?? this.volts;
        return this.put();
      }
      case 'SOUR:CURR': {
        this.limit = this.number(rest, MOST.supply.amps) ?? this.limit;
        return undefined;
      }
      case 'SOUR:VOLT?':
        return told(this.volts);
      case 'SOUR:CURR?':
        return told(this.limit);
      case 'OUTP':
        this.on = this.onOff(rest) ?? this.on;
        return this.put();
      case 'OUTP?':
        return this.on ? '1' : '0';
      case 'MEAS:VOLT?':
        return told(this.shown.show(this.on ? this.volts : 0));
      case 'MEAS:CURR?':
        return told(this.shown.show(this.on ? this.drawn() : 0));
      default:
        return UNKNOWN;
    }
  }

  override stop(): void {
    this.on = false;
    this.put();
  }

  /** What flows; above its limit it lets go, as one does that is set to. */
  private drawn(): number {
    const { amps } = this.world.at('pack');
    if (amps <= this.limit) return amps;
    this.stop();
    this.fail(-221, 'Over current; output off');
    return 0;
  }

  private put(): undefined {
    this.world.set({ supply: this.on ? this.volts : undefined });
    return undefined;
  }
}

/** What charges the pack as the thread says; its output is what it gives. */
export class ChargerStandIn extends StandIn {
  private on = false;
  private readonly volts = new Display(OWN, this.seed + 41);
  private readonly current = new Display(OWN, this.seed + 42);

  protected answer(command: string, rest: string) {
    switch (command) {
      case 'OUTP':
        this.on = this.onOff(rest) ?? this.on;
        this.world.set({ charging: this.on });
        return undefined;
      case 'OUTP?':
        return this.on ? '1' : '0';
      case 'MEAS:VOLT?':
        return told(this.volts.show(this.world.knows('charger') ? this.world.at('charger').volts : 0));
      case 'MEAS:CURR?':
        return told(this.on ? this.current.show(this.world.at('charger').amps) : 0);
      default:
        return UNKNOWN;
    }
  }

  override stop(): void {
    this.on = false;
    this.world.set({ charging: false });
  }
}

/** What a person does with their hands: switches on and off, fills the pack, lets time go by. */
export class HandsStandIn extends StandIn {
  constructor(
    world: World,
    seed: number,
    private readonly clock: { speed: number },
  ) {
    super('hands', world, seed);
  }

  protected answer(command: string, rest: string) {
    switch (command) {
      case 'LOADS': {
        const word = /^(on|off)$/i.test(rest) ? rest.toLowerCase() : rest;
        if (word !== 'on' && word !== 'off' && !this.world.hasMode(word))
          return this.fail(-224, 'Illegal parameter value; on, off or a mode');
        this.world.set({ loads: word });
        return undefined;
      }
      case 'LOADS:SINCE?':
        return this.world.changed.toFixed(3);
      case 'PACK:FILL':
        this.world.fill();
        return undefined;
      case 'PACK:AT': {
        const soc = this.number(rest, 1);
        if (soc !== undefined) this.world.fill(soc);
        return undefined;
      }
      case 'TRIM': {
        const [stage = '', to = ''] = rest.split(/\s+/);
        const volts = this.number(to, MOST.supply.volts);
        if (volts !== undefined && !this.world.trim(stage, volts))
          return this.fail(-224, 'Illegal parameter value; no stage that can be trimmed');
        return undefined;
      }
      case 'SPEED': {
        const speed = this.number(rest, 100_000);
        if (speed !== undefined) this.clock.speed = Math.max(1, speed);
        return undefined;
      }
      case 'SPEED?':
        return told(this.clock.speed);
      default:
        return UNKNOWN;
    }
  }

  override stop(): void {
    this.world.set({ loads: 'off' });
  }
}
