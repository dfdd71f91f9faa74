import type { Transfer } from '../transients/transfer.ts';
import { spiceNumber, spiceText } from './spice.ts';

const num = (value: number) => spiceNumber(value, 10);

/** Times as long as the transfer that are shown, and steps of one. */
const SHOWN = 4;
const STEPS = 400;

/**
 * SPICE netlist of a rail that is handed over: its capacitor as charged, the loads' constant power, and the battery's side, whose
 * switch closes once it takes over; it conducts one way only.
 */
export function transferNetlist(name: string, task: Transfer): string {
  const { rail, farads, esr, watts, seconds, backup, ohms } = task;
  const step = seconds / STEPS;
  // Full volts from the beginning, what is given from the instant it takes over.
  const lines = [
    `* ${spiceText(name)}: a rail handed over, mains gone at 0 s, the battery there at ${num(seconds)} s`,
    `Crail plate 0 ${num(farads)} IC=${num(rail)}`,
    `Resr plate rail ${num(Math.max(esr, 1e-9))}`,
    `Bload rail 0 I = ${num(watts)} / max(v(rail), ${num(rail / 100)})`,
    `Vthere there 0 PWL(0 0 ${num(seconds)} 0 ${num(seconds + step / 100)} 1)`,
    `Bbattery 0 rail I = v(there) * max(0, (${num(backup)} - v(rail)) / ${num(ohms)})`,
    `.tran ${num(step)} ${num(SHOWN * seconds)} 0 ${num(step)} UIC`,
    '.end',
  ];
  return `${lines.join('\n')}\n`;
}
