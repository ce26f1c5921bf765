import type { BellKind } from '$lib/view/models.ts';
import type { DeskBell } from '$lib/view/desk.ts';

/** Bells that lie on the same spot of a bar, as one mark. */
export interface BarMark {
  key: string;
  /** Per cent of the bar. */
  at: number;
  kind: BellKind;
  rung: boolean;
  count: number;
  label: string;
}

/** So near to each other they are one mark, in per cent of the bar. */
const NEAR = 4;

/** Where an hour of a day lies on a bar, in per cent; the ends for what lies outside. */
export function placeOn(minute: number, [from, until]: readonly [number, number]): number {
  const at = ((minute / 60 - from) / (until - from)) * 100;
  return Math.min(100, Math.max(0, Math.round(at * 100) / 100));
}

/** The bells of a day as marks: of the same kind and spot one, with a number. */
export function marksOf(bells: readonly DeskBell[], hours: readonly [number, number]): BarMark[] {
  const marks: BarMark[] = [];
  for (const bell of [...bells].sort((a, b) => a.minute - b.minute)) {
    const at = placeOn(bell.minute, hours);
    const near = marks.find(
      (mark) => mark.kind === bell.kind && mark.rung === bell.rung && at - mark.at < NEAR
    );
    if (near) {
      near.count++;
      near.label = `${near.label}; ${bell.time} ${bell.about}`;
    } else {
      const { key, kind, rung, time, about } = bell;
      marks.push({ key, at, kind, rung, count: 1, label: `${time} ${about}` });
    }
  }
  return marks;
}
