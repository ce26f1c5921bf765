import { createServer, connect, type Server, type Socket } from 'node:net';

/** How a line between the server and somebody else's behaves. */
export const LINE_FAULTS = [
  'good',
  'says nothing',
  'says nothing more once something was sent',
  'drips',
  'closes at once',
  'closes after the first word',
  'answers nonsense'
] as const;
export type LineFault = (typeof LINE_FAULTS)[number];

/** So much was sent that what it is about stands in it: more than the greetings of either protocol. */
const SENT_BYTES = 400;
const DRIP_MS = 100;
const NONSENSE = Buffer.from('999 what\r\n');

/** A line to a port of this machine, which can be made to behave badly at each phase of what goes over it. */
export class BadLine {
  readonly #server: Server;
  readonly #open = new Set<Socket>();
  fault: LineFault = 'good';

  private constructor(to: number) {
    this.#server = createServer((near) => this.#join(near, to));
  }

  /** @param to the port that it leads to */
  static async to(to: number): Promise<BadLine> {
    const line = new BadLine(to);
    await new Promise<void>((resolve) => line.#server.listen(0, '127.0.0.1', resolve));
    return line;
  }

  get port(): number {
    return (this.#server.address() as { port: number }).port;
  }

  async close(): Promise<void> {
    for (const socket of this.#open) socket.destroy();
    await new Promise((resolve) => this.#server.close(resolve));
  }

  #join(near: Socket, to: number): void {
    const { fault } = this;
    if (fault === 'closes at once') return void near.destroy();
    const far = connect(to, '127.0.0.1');
    for (const one of [near, far]) {
      this.#open.add(one);
      one.once('close', () => {
        this.#open.delete(one);
        near.destroy();
        far.destroy();
      });
      // Either end may go at any moment: that is what is tried.
      one.on('error', () => one.destroy());
    }
    let sent = 0;
    near.on('data', (bytes) => {
      sent += bytes.length;
      far.write(bytes);
    });
    far.on('data', (bytes) => void this.#answer(near, bytes, fault, sent));
  }

  async #answer(near: Socket, bytes: Buffer, fault: LineFault, sent: number): Promise<void> {
    if (fault === 'says nothing') return;
    if (fault === 'says nothing more once something was sent' && sent > SENT_BYTES) return;
    if (fault === 'answers nonsense') return void near.write(NONSENSE);
    if (fault === 'closes after the first word') return void near.end(bytes);
    if (fault !== 'drips') return void near.write(bytes);
    for (const byte of bytes) {
      if (near.destroyed) return;
      near.write(Buffer.from([byte]));
      await new Promise((resolve) => setTimeout(resolve, DRIP_MS));
    }
  }
}
