import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/workspace/commit.ts';
import { deskOf, type DeskEntry } from '../src/lib/server/desk/desk-of.ts';
import type { PlaceInput } from '../src/lib/server/desk/schema.ts';
import { MS_PER_DAY } from '../src/lib/core/time/day.ts';

/** What came within so many days is not placed yet. */
const NEW_DAYS = 2;

/** Everybody goes through what came in, but for the last days of it, and plans a few tasks for other days than their due dates. */
export function placeTasks(container: Container, personIds: readonly number[]): void {
  const now = container.clock.now();
  for (const personId of personIds) {
    const actor: Actor = { personId, source: 'person' };
    const { entries, today: date } = deskOf(container, personId);
    const old = entries.filter(
      ({ place, row }) => place === 'to-place' && row.assignedAt < now - NEW_DAYS * MS_PER_DAY
    );
    const ahead = old.filter(({ task }) => (task.due ?? 0) > date).sort((a, b) => b.task.due! - a.task.due!);
    const [today, after] = ahead;
    const planned = [today, after];
    place(
      container,
      actor,
      'leave',
      old.filter((entry) => !planned.includes(entry))
    );
    place(container, actor, 'today', today ? [today] : []);
    place(container, actor, 'after', after ? [after] : []);
    container.placing.look(personId);
  }
}

function place(
  { placing }: Container,
  actor: Actor,
  to: PlaceInput['to'],
  entries: readonly DeskEntry[]
): void {
  if (entries.length === 0) return;
  const taskIds = entries.map(({ row }) => row.id);
  placing.place(actor, { taskIds, to, day: null, newDue: null, keepDue: true, asDue: false });
}
