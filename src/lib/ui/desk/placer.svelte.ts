import { many } from '$lib/core/many.ts';
import type { DeskBell, DeskDay, DeskTaskView, DeskView } from '$lib/view/desk.ts';
import { carriedTo, targetsOf, type Carried, type Target } from './carried.ts';

/** Does an act of the Desk; gives back whether it was done. */
export type DeskAct = (act: string, body: Record<string, unknown>) => Promise<boolean>;

/** What is asked before tasks are placed. */
export type Asking =
  | { step: 'where'; tasks: readonly DeskTaskView[] }
  | { step: 'date'; tasks: readonly DeskTaskView[] }
  | { step: 'due'; tasks: readonly DeskTaskView[]; target: Target; carried: Carried }
  | { step: 'park' | 'back'; tasks: readonly DeskTaskView[] };

/** Carries tasks of a Desk to other days, by a key, a drag or a press: one way for all of them, and the same questions. */
export class Placer {
  asking = $state.raw<Asking | null>(null);
  /** What is dragged, and what letting go would set. */
  dragged = $state.raw<DeskTaskView | null>(null);
  over = $state.raw<{ key: string; words: string } | null>(null);
  readonly #desk: () => DeskView;
  readonly #act: DeskAct;
  readonly #bells: () => readonly DeskBell[];

  constructor(desk: () => DeskView, act: DeskAct, bells: () => readonly DeskBell[]) {
    this.#desk = desk;
    this.#act = act;
    this.#bells = bells;
  }

  get desk(): DeskView {
    return this.#desk();
  }

  get targets(): ReturnType<typeof targetsOf> {
    return targetsOf(this.#desk());
  }

  /** A day as it will be lived: what is there already, when its bells ring, what closes it; null for a day that the Desk does not show. */
  livedOn(date: string): { day: DeskDay; words: string; bells: readonly DeskBell[] } | null {
    const day = this.#desk()
      .weeks.flatMap((week) => week.days)
      .find((one) => one.date === date);
    if (!day) return null;
    const bells = this.#bells().filter((bell) => bell.date === date);
    const times = bells.map(({ time }) => time).filter((one, i, all) => all.indexOf(one) === i);
    const words = [
      day.count === 0 ? 'nothing is on it yet' : many(day.count, 'task'),
      times.length > 0 ? `notices at ${times.slice(0, 3).join(', ')}` : null,
      ...day.notes
    ];
    return { day, words: words.filter(Boolean).join(' · '), bells };
  }

  /** Places them, or asks first where one would be late, or has no date. */
  async place(tasks: readonly DeskTaskView[], target: Target): Promise<void> {
    const carried = carriedTo(tasks, target, this.#desk().today.date);
    if (carried.late.length > 0 || carried.undated.length > 0)
      this.asking = { step: 'due', tasks, target, carried };
    else await this.send(tasks, target, {});
  }

  /** Sends what was decided. */
  async send(
    tasks: readonly DeskTaskView[],
    { to, first }: Target,
    decided: { newDue?: string; keepDue?: boolean; asDue?: boolean }
  ): Promise<void> {
    const taskIds = tasks.map(({ id }) => id);
    const day = to === 'day' ? first : null;
    if (await this.#act('place', { taskIds, to, day, ...decided })) this.asking = null;
  }

  async finish(
    { id, name, subtasks }: DeskTaskView,
    confirm: (title: string) => Promise<boolean>
  ): Promise<void> {
    const open = subtasks.all - subtasks.done;
    if (
      open > 0 &&
      !(await confirm(`${open} of its subtasks are still open. Finish “${name}” with all of them?`))
    )
      return;
    await this.#act('finish', { taskId: id, withSubtasks: open > 0 });
  }

  async park(task: DeskTaskView, reviewDate: string | null): Promise<void> {
    if (await this.#act('park', { taskId: task.id, reviewDate })) this.asking = null;
  }

  async giveBack(task: DeskTaskView, word: string): Promise<void> {
    if (await this.#act('back', { taskId: task.id, word })) this.asking = null;
  }

  async order(taskIds: readonly number[]): Promise<void> {
    await this.#act('order', { taskIds });
  }

  /** What a key does with a task; whether it does anything. */
  key(key: string, tasks: readonly DeskTaskView[]): boolean {
    const { today, next, after } = this.targets;
    const first = tasks[0];
    if (!first) return false;
    switch (key.toLowerCase()) {
      case 'l':
        void this.place(tasks, { ...today, to: 'leave' });
        return true;
      case 't':
        void this.place(tasks, today);
        return true;
      case 'n':
        if (next) void this.place(tasks, next);
        return next !== null;
      case 'w':
        void this.place(tasks, after);
        return true;
      case 'd':
        this.asking = { step: 'date', tasks };
        return true;
      case 'p':
      case 'b':
        if (tasks.length > 1) return false;
        this.asking = { step: key.toLowerCase() === 'p' ? 'park' : 'back', tasks };
        return true;
      default:
        return false;
    }
  }
}
