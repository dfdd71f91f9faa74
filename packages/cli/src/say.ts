/** Control characters but line ends and tabs: a name from a file must not move the terminal's cursor or colour it. */

const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/g;

/** Print a text, harmless to a terminal. */
export function say(text: string): void {
  process.stdout.write(text.replace(CONTROL, '\ufffd'));
}

/** The same to the standard error. */
export function complain(text: string): void {
  process.stderr.write(text.replace(CONTROL, '\ufffd'));
}
