import type { SendingView } from './sending.ts';
import type { Deed } from '../core/access/deeds.ts';

/** What the frame around every place shows. */
export interface FrameView {
  person: { id: number; name: string; initials: string };
  /** How many messages behind their bell they have not looked at. */
  unseen: number;
  /** What the person may do: places and acts that are not among it are not shown. */
  deeds: Deed[];
  clock: {
    /** `Thu 5 Mar, 07:40` on the viewer's wall. */
    text: string;
    place: string;
    movable: boolean;
    running: boolean;
    /** The viewer's date and time, for the controls that move the clock. */
    date: string;
    time: string;
  };
  postRoom: boolean;
  /** Whether messages leave, for those who make rules; null for others. */
  sending: SendingView | null;
  demo: boolean;
}

/** A span of time in words, to the unit that matters: “in 20 min”, “in 3 h”, “in 2 days”. */
export function inWords(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000));
  if (minutes < 1) return 'now';
  if (minutes < 90) return `in ${minutes} min`;
  const hours = Math.round(minutes / 60);
  return hours < 36 ? `in ${hours} h` : `in ${Math.round(hours / 24)} days`;
}

/** The letters that stand for a person. */
export function initialsOf(name: string): string {
  const words = name.trim().split(/\s+/);
  return `${words[0]?.[0] ?? ''}${words.length > 1 ? words[words.length - 1]![0]! : ''}`.toUpperCase();
}
