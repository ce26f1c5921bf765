import { CodedError } from '../../core/errors.ts';
import { CHANNEL, channelNamed, CHANNELS, isLeaving, type ChannelName } from '../../core/channel/channels.ts';
import type { Zone } from '../../core/time/zone.ts';
import { twoTimes } from '../../view/bells.ts';
import type { TwoTimes } from '../../view/models.ts';
import type { LeavingChannel } from '../../core/channel/settings.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ChannelHealth } from '../outbox/health.ts';
import type { KeptMail } from '../store/kept-mail.ts';
import type { PostRoom } from './post-room.ts';
import type { Person } from '../store/people.ts';
import { faultsOf, type ReceivedMessage, type StandInFault } from './post-room.ts';

/** What these views ask. */
type Services = Workspace & { postRoom: PostRoom; health: ChannelHealth };

/** Whether there is something to look at: a stand-in, or mail that is kept here. */
export function hasPostRoom(app: Pick<Services, 'postRoom' | 'health' | 'stores'>): boolean {
  return app.postRoom.exists || app.health.keepsMail || app.stores.keptMail.any();
}

/** How many messages one page holds. */
export const POST_ROOM_PAGE = 50;

/** What somebody looks for in the Post room. */
export interface PostRoomQuery {
  /** Null: by every channel. */
  channel: ChannelName | null;
  /** Null: to everybody. */
  readerId: number | null;
  search: string;
  offset: number;
}

/** One message in the list. */
export interface ReceivedRow {
  /** Of the channel and the number that the message has there. */
  key: string;
  channel: ChannelName;
  subject: string;
  to: string;
  reader: string | null;
  copies: number;
  time: TwoTimes | null;
}

export interface PostRoomView {
  total: number;
  messages: ReceivedRow[];
  /** What each stand-in does wrong now, and what it can. */
  faults: { channel: LeavingChannel; fault: StandInFault; choices: StandInFault[] }[];
  /** The sentence of a stand-in that does not answer; null while all do. */
  closed: string | null;
}

/** One message as it was received, by whatever channel. */
export interface ReceivedView extends Omit<ReceivedRow, 'copies' | 'key'> {
  text: string;
  html: string;
  headers: string;
  files: { name: string; type: string; text: string }[];
}

interface Found {
  total: number;
  rows: (ReceivedRow & { at: number })[];
}

/** A page of everything that was received, newest first, by channel and reader. */
export async function postRoomPage(
  app: Services,
  here: Zone,
  { channel, readerId, search, offset }: PostRoomQuery
): Promise<PostRoomView> {
  const channels = channel === null ? CHANNELS : [channel];
  const reader = readerId === null ? null : app.stores.people.byId(readerId);
  // Where several lists become one, each may hold all of the page and of those before it.
  const most = offset + POST_ROOM_PAGE;
  try {
    const received = await Promise.all(
      channels.map((one) =>
        isLeaving(one)
          ? receivedRows(app, here, one, reader, search, most)
          : Promise.resolve(inAppRows(app, here, readerId, search, most))
      )
    );
    const kept = channels.includes('mail') ? [keptRows(app, here, reader, search, most)] : [];
    const found = [...received, ...kept];
    const messages = found
      .flatMap(({ rows }) => rows)
      .sort((a, b) => b.at - a.at)
      .slice(offset, most)
      .map(({ at: _, ...row }) => row);
    const faults = await Promise.all(
      app.postRoom.channels.map(async (one) => ({
        channel: one,
        fault: await app.postRoom.fault(one),
        choices: faultsOf(one)
      }))
    );
    return { total: found.reduce((sum, { total }) => sum + total, 0), messages, faults, closed: null };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return { total: 0, messages: [], faults: [], closed: failure.message };
  }
}

/** @param key as the list gives it. Null when there is no such message. @throws CodedError `post-room-closed` */
export async function postRoomMessage(app: Services, here: Zone, key: string): Promise<ReceivedView | null> {
  const match = /^([a-z-]+)-(\d{1,9})$/.exec(key);
  if (match?.[1] === 'kept') return keptMessage(app, here, Number(match[2]));
  const channel = channelNamed(match?.[1]);
  if (!channel || !hasPostRoom(app)) return null;
  if (isLeaving(channel) && !app.postRoom.channels.includes(channel)) return null;
  const id = Number(match![2]);
  if (!isLeaving(channel)) {
    const found = app.stores.inApp.byId(id);
    if (!found) return null;
    const { at: _, key: _key, copies: _copies, ...row } = inAppRow(app, here, found);
    return { ...row, text: found.text, html: '', headers: '', files: [] };
  }
  const message = await app.postRoom.message(id, channel);
  if (!message) return null;
  const { at: _, key: _key, copies: _copies, ...row } = rowOf(app, here, channel, message);
  return {
    ...row,
    text: message.text ?? '',
    html: message.html ?? '',
    headers: message.headers ?? (message.body ? JSON.stringify(message.body, null, 2) : ''),
    files: message.files ?? []
  };
}

async function receivedRows(
  app: Services,
  here: Zone,
  channel: LeavingChannel,
  reader: Person | null,
  search: string,
  most: number
): Promise<Found> {
  const to = reader ? addressOf(reader, channel) : '';
  if (!app.postRoom.channels.includes(channel) || to === null) return { total: 0, rows: [] };
  const { total, messages } = await app.postRoom.list(search, 0, most, channel, to);
  return { total, rows: messages.map((message) => rowOf(app, here, channel, message)) };
}

function rowOf(app: Services, here: Zone, channel: LeavingChannel, message: ReceivedMessage) {
  const to = Array.isArray(message.to) ? message.to : [message.to];
  const reader = readerAt(app, channel, to[0] ?? '');
  const { date, messageId } = message;
  // What is posted carries no date: it is the one under which it left.
  const left = date ?? app.stores.deliveries.leftAt(CHANNEL[channel].messageIdOf(messageId));
  const there = reader ? app.source.facts.people.get(reader.id)!.zone : here;
  return {
    key: `${channel}-${message.id}`,
    channel,
    subject: message.subject,
    to: to.join(', '),
    reader: reader?.name ?? null,
    copies: message.copies,
    time: left === null ? null : twoTimes(left, there, here, app.clock.now()),
    at: left ?? 0
  };
}

function inAppRows(app: Services, here: Zone, readerId: number | null, search: string, most: number): Found {
  const { total, messages } = app.stores.inApp.search(readerId, search, most);
  return { total, rows: messages.map((message) => inAppRow(app, here, message)) };
}

function inAppRow(
  app: Services,
  here: Zone,
  { id, readerId, subject, leavesAt }: { id: number; readerId: number; subject: string; leavesAt: number }
) {
  const reader = app.source.facts.people.get(readerId);
  return {
    ...{ key: `in-app-${id}`, channel: 'in-app' as const, subject, to: '', copies: 1 },
    reader: reader?.name ?? null,
    time: twoTimes(leavesAt, reader?.zone ?? here, here, app.clock.now()),
    at: leavesAt
  };
}

function keptRows(app: Services, here: Zone, reader: Person | null, search: string, most: number): Found {
  const to = reader ? addressOf(reader, 'mail') : '';
  if (to === null) return { total: 0, rows: [] };
  const { total, messages } = app.stores.keptMail.search(to, search, most);
  return { total, rows: messages.map((message) => keptRow(app, here, message)) };
}

function keptRow(app: Services, here: Zone, { id, readerId, address, subject, leavesAt }: KeptMail) {
  const reader = app.source.facts.people.get(readerId);
  return {
    ...{ key: `kept-${id}`, channel: 'mail' as const, subject, to: address, copies: 1 },
    reader: reader?.name ?? null,
    time: twoTimes(leavesAt, reader?.zone ?? here, here, app.clock.now()),
    at: leavesAt
  };
}

function keptMessage(app: Services, here: Zone, id: number): ReceivedView | null {
  const found = app.stores.keptMail.byId(id);
  if (!found) return null;
  const { at: _, key: _key, copies: _copies, ...row } = keptRow(app, here, found);
  const headers = `To: ${found.address}\nSubject: ${found.subject}\nMessage-ID: ${found.messageId}`;
  return { ...row, text: found.text, html: found.html, headers, files: [] };
}

/** Where a channel reaches somebody, as it is sent; null where it does not. */
function addressOf(person: Person, channel: LeavingChannel): string | null {
  const { addressOf, plainAddress } = CHANNEL[channel];
  const address = addressOf(person);
  return address === null ? null : plainAddress(address);
}

function readerAt(app: Services, channel: LeavingChannel, address: string): Person | null {
  if (channel === 'mail') return app.stores.people.byEmail(address);
  const wanted = address.toLowerCase();
  return app.stores.people.all().find((one) => addressOf(one, channel)?.toLowerCase() === wanted) ?? null;
}
