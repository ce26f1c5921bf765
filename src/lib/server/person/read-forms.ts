import { TELLING_KINDS } from '../../core/notice/kinds.ts';
import { read, type Read } from '../input/fields.ts';
import { channelsSchema, quietSchema, type ChannelsInput, type QuietInput } from './schema.ts';

/** Quiet hours and limits as their form sends them: hours are written one after another, with commas. */
export function readQuiet(form: FormData): Read<QuietInput> {
  const quiet = String(form.get('quiet') ?? '')
    .split(/[,;]/)
    .map((text) =>
      text
        .split(/–|-|to/)
        .map((end) => end.trim())
        .join('-')
    )
    .filter(Boolean);
  const input = read(quietSchema, { ...Object.fromEntries(form), quiet });
  if (input.ok) return input;
  const { dailyCap, digestDue, digestOverdue, ...rest } = input.errors;
  const named = { dailyCap, digestDue, digestOverdue, quiet: Object.values(rest)[0] };
  const said = Object.entries(named).filter((entry): entry is [string, string] => entry[1] !== undefined);
  return { ok: false, errors: Object.fromEntries(said) };
}

/** Channels as their form sends them: what is ticked, each with its kind. */
export function readChannels(form: FormData): Read<ChannelsInput> {
  const channels = new Map<string, string[]>(TELLING_KINDS.map((kind) => [kind, []]));
  for (const choice of form.getAll('choice')) {
    const [kind = '', channel = ''] = String(choice).split('/');
    channels.get(kind)?.push(channel);
  }
  return read(channelsSchema, {
    chat: String(form.get('chat') ?? ''),
    channels: Object.fromEntries(channels)
  });
}
