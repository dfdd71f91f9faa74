import { InstrumentError, type Line } from './line.ts';

/** Whether this browser can speak to serial ports. */
export function hasSerial(): boolean {
  return 'serial' in navigator;
}

/** Rates that bench instruments are set to. */
export const BAUD_RATES = [9600, 19200, 38400, 57600, 115200] as const;

/**
 * A line over a serial port that the person chooses. @throws InstrumentError where there is none, or another program has it;
 * nothing where none was chosen
 */
export async function openSerial(baudRate: number): Promise<Line | undefined> {
  if (!hasSerial()) {
    throw new InstrumentError('lost', 'This browser has no serial ports; one built on Chromium has.');
  }
  let port: SerialPort;
  try {
    port = await navigator.serial.requestPort();
  } catch {
    return undefined;
  }
  try {
    await port.open({ baudRate });
  } catch {
    throw new InstrumentError(
      'taken',
      'The port could not be opened: another program has it, or it was pulled. Close that program and try again.',
    );
  }
  return lineOf(port);
}

function lineOf(port: SerialPort): Line {
  const reader = port.readable!.getReader();
  const writer = port.writable!.getWriter();
  const [decoder, encoder] = [new TextDecoder(), new TextEncoder()];
  let onText: (text: string) => void = () => undefined;
  let onClose: () => void = () => undefined;
  let open = true;
  const end = () => {
    if (!open) return;
    open = false;
    onClose();
  };
  void (async () => {
    try {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        onText(decoder.decode(value, { stream: true }));
      }
    } catch {
      // Pulled: told by the end.
    }
    end();
  })();
  return {
    endsOff: false,
    send: (text) => void writer.write(encoder.encode(text)).catch(end),
    onText: (listener) => (onText = listener),
    onClose: (listener) => (onClose = listener),
    close: () => {
      void (async () => {
        // What was written last, the output off, goes out before.
        await writer.close().catch(() => undefined);
        await reader.cancel().catch(() => undefined);
        reader.releaseLock();
        await port.close().catch(() => undefined);
        end();
      })();
    },
  };
}
