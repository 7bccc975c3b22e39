import type { BytePort } from './serialSource.ts';

/** What of Web Serial is used here. */
interface SerialPort extends BytePort {
  open(options: { baudRate: number }): Promise<void>;
}
interface Serial {
  getPorts(): Promise<SerialPort[]>;
  requestPort(): Promise<SerialPort>;
}

/** Speed of nearly all serial gauges [common practice, no source]. */
const BAUD = 9600;

const serial = (): Serial | undefined => (navigator as { serial?: Serial }).serial;

/** Whether this browser reaches serial ports at all. */
export const hasSerial = (): boolean => serial() !== undefined;

/** Lets the person choose a port, and opens it. Must be called from a press of theirs. */
export async function choosePort(): Promise<BytePort> {
  const port = await serial()?.requestPort();
  if (!port) throw new Error('This browser reaches no serial ports.');
  await port.open({ baudRate: BAUD });
  return port;
}

/** The port chosen earlier, opened again after a reload; undefined where there is not exactly one. */
export async function knownPort(): Promise<BytePort | undefined> {
  const ports = (await serial()?.getPorts()) ?? [];
  const [port] = ports;
  if (!port || ports.length !== 1) return undefined;
  await port.open({ baudRate: BAUD });
  return port;
}
