import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What every received message has. */
interface Message {
  /** One address, or several. */
  to: string | string[];
  subject: string;
  text: string;
  /** By what a repeat is known. */
  messageId: string;
}

/** Received messages, kept in a file of JSON lines where there is a folder for it. */
export class KeptMessages<T extends Message> {
  readonly #file: string | null;
  readonly all: T[];

  /** @param dir absent: only in memory */
  constructor(dir: string | undefined, name: string) {
    if (dir) mkdirSync(dir, { recursive: true });
    this.#file = dir ? join(dir, name) : null;
    this.all =
      this.#file && existsSync(this.#file)
        ? readFileSync(this.#file, 'utf8')
            .split('\n')
            .filter((line) => line !== '')
            .map((line) => JSON.parse(line) as T)
        : [];
  }

  add(one: T): void {
    this.all.push(one);
    if (this.#file) appendFileSync(this.#file, `${JSON.stringify(one)}\n`);
  }

  /** One with how often the same has come; null when there is none of that number. */
  byId(id: number): (T & { copies: number }) | null {
    const found = this.all[id - 1];
    return found ? { ...found, copies: this.copiesOf(found) } : null;
  }

  copiesOf({ messageId }: T): number {
    return this.all.filter((one) => one.messageId === messageId).length;
  }

  /** Those whose subject, addresses or words contain `search`, as they came. @param reader one address; empty for all */
  sought(search: string, reader: string): T[] {
    const [wanted, address] = [search.toLowerCase(), reader.toLowerCase()];
    return this.all.filter(({ to, subject, text }) => {
      const addresses = [to].flat();
      if (address !== '' && !addresses.some((one) => one.toLowerCase() === address)) return false;
      return `${subject}\n${addresses.join(' ')}\n${text}`.toLowerCase().includes(wanted);
    });
  }
}
