import { many } from '../../core/many.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { KeptEdit } from '../store/change-model.ts';
import type { LeftMessage } from '../store/undoing.ts';

/** What an undo could not take back: later edits, by whom, and messages that had left. */
export function undoneWords(
  { stores }: Pick<Workspace, 'stores'>,
  {
    kept,
    left
  }: { left: readonly Pick<LeftMessage, 'messageId'>[] } & {
    kept: readonly Pick<KeptEdit, 'actorId' | 'title'>[];
  }
): string {
  const names = [
    ...new Set(
      kept.map(({ actorId }) =>
        actorId === null ? 'Early Bell' : (stores.people.byId(actorId)?.name ?? 'somebody')
      )
    )
  ];
  const edits =
    kept.length === 0
      ? ''
      : ` ${many(kept.length, 'later edit was', 'later edits were')} not undone: “${kept[0]!.title}” by ${names.join(', ')}.`;
  const count = new Set(left.map(({ messageId }) => messageId)).size;
  const messages =
    count === 0
      ? ''
      : ` ${many(count, 'message was', 'messages were')} sent meanwhile. This cannot be undone.`;
  return edits + messages;
}
