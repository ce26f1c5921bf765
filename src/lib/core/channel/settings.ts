import type { Rate } from '../delivery/rate.ts';

/** How the line to a mail server is kept from being read: not at all, turned on after greeting (RFC 3207), or from the first byte (RFC 8314 §3.3). */
export const TLS_CHOICES = ['none', 'starttls', 'tls'] as const;
export type TlsChoice = (typeof TLS_CHOICES)[number];

/** A mail server as it is set; its password is kept apart. */
export interface MailRouteSettings {
  host: string;
  port: number;
  tls: TlsChoice;
  /** With whose name we come in; empty: with nobody's. */
  user: string;
  /** Certificates (PEM) by which it is trusted, where it is the team's own; empty: those that the machine trusts. */
  ca: string;
}

/** What each channel that leaves here talks to. What is not set is as the server was started with. */
export interface ChannelsSet {
  /** At most two, the second for when the first cannot be reached; none: the one that the server was started with. */
  mail: MailRouteSettings[];
  /** Null: the one that the server was started with, if any. */
  text: { url: string; from: string } | null;
  /** Whether an address of the chat was set; it is kept apart. */
  chat: boolean;
}

export const NOTHING_SET: ChannelsSet = { mail: [], text: null, chat: false };

/** Channels whose messages others take over. */
export type LeavingChannel = keyof ChannelsSet;

/** What channels talk to, and how much they take. */
export interface ChannelSettings extends ChannelsSet {
  /** Mail is kept in the Post room here and not sent. */
  keepsMail: boolean;
  rates: Record<LeavingChannel, Rate>;
}

/** What of it is kept apart: nobody reads it but the channels. */
export type ChannelSecret = 'mail 1' | 'mail 2' | 'text' | 'chat';
