import { readCalendarFile, type CalendarFile } from '../in-out/read/calendar-ics.ts';
import { readLeaveFile, type FileRow } from '../in-out/read/leave-file.ts';
import type { Threads } from './threads.ts';

/** A text up to this length is read on the spot: some milliseconds, whatever stands in it. */
const SHORT = 10_000;

/** Reads files that people bring: long ones in a thread, since a calendar of few lines can ask for very many dates. */
export class FileReading {
  readonly #threads: Threads;

  constructor(threads: Threads) {
    this.#threads = threads;
  }

  /** @throws CodedError as `readCalendarFile` */
  async calendar(text: string, fromYear: number, toYear: number): Promise<CalendarFile> {
    const isShort = text.length <= SHORT && !REPEATS.test(text);
    if (isShort || !this.#threads.areThere) return readCalendarFile(text, fromYear, toYear);
    return this.#threads.ask('read calendar', { text, fromYear, toYear });
  }

  /** @throws CodedError as `readLeaveFile` */
  async leave(text: string): Promise<FileRow[]> {
    const isShort = text.length <= SHORT || !this.#threads.areThere;
    return isShort ? readLeaveFile(text) : this.#threads.ask('read leave', { text });
  }
}

/** Of what repeats, a line can stand for a hundred thousand dates. */
const REPEATS = /^R(?:RULE|DATE)/im;
