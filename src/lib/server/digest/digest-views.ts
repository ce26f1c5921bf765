import { digestReaders } from '../../core/digest/readers.ts';
import { digestWhenWords } from '../../core/digest/when.ts';
import type { DigestReader } from '../../core/digest/model.ts';
import { list } from '../../core/rule/words/list.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import { ABOUT_WORDS, READER_WORDS, type DigestRowView, type DigestRunView } from '../../view/digests.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { recordNames } from '../engine/names.ts';
import type { DigestRun } from '../store/digests.ts';

/** What became of the last ones is listed so far back. */
const RUNS_LISTED = 40;

/** Every digest in its order, with its next and last on the viewer's wall. */
export function digestList(app: Workspace, zone: Zone): DigestRowView[] {
  const today = zone.dayOf(app.clock.now());
  return app.stores.digests.all().map((digest) => {
    const { id, name, state, definition } = digest;
    const next = app.stores.digests.nextOf(id);
    const last = app.stores.digests.newestSent(id);
    return {
      ...{ id, name, state },
      when: digestWhenWords(definition.when),
      to: list(definition.to.map((reader) => readerWords(reader, app))) || 'nobody',
      readers: digestReaders(definition, app.source.facts, digest.keeperId).length,
      about: ABOUT_WORDS[definition.about],
      next: state === 'off' || next.at === null ? null : shortMoment(next.at, zone, today),
      nextReaders: next.readers,
      last: last === null ? null : shortMoment(last, zone, today)
    };
  });
}

function readerWords(reader: DigestReader, app: Workspace): string {
  const names = recordNames(app.stores);
  switch (reader.who) {
    case 'person':
      return names.person(reader.id);
    case 'group':
      return names.group(reader.id);
    case 'readers':
      return app.stores.readers.lists().find(({ id }) => id === reader.id)?.name ?? 'a removed reader list';
    default:
      return READER_WORDS[reader.who];
  }
}

/** What became of the last ones of a digest, newest first. */
export function digestRuns(app: Workspace, digestId: number, zone: Zone): DigestRunView[] {
  const today = zone.dayOf(app.clock.now());
  return app.stores.digests.newest(digestId, RUNS_LISTED).map((run) => ({
    id: run.id,
    at: shortMoment(run.at, zone, today),
    reader:
      run.readerId === 0
        ? 'everybody, in one message'
        : (app.stores.people.byId(run.readerId)?.name ?? 'a removed person'),
    became: becameWords(run),
    stages: stagesWords(run),
    subject: run.subject
  }));
}

function becameWords({ state, reason, end }: DigestRun): string {
  if (state === 'sent') return end ?? 'being sent';
  return state === 'empty' ? 'empty, not sent' : `not sent: ${reason ?? ''}`;
}

function stagesWords({ stages }: DigestRun): string {
  if (!stages) return '';
  const { looked, found, shown, kept } = stages;
  const rows = shown < found ? `${shown} of ${found} shown` : `${found} in it`;
  return `${looked} checked, ${rows}${kept > 0 ? `, ${kept} kept notices` : ''}`;
}
