import type { Snippet } from 'svelte';
import type { ChannelSettingsView } from '$lib/view/channels.ts';

/** What each channel's part of the form is given. */
export interface ChannelPartProps {
  set: ChannelSettingsView;
  /** What a field shows: what was typed and refused, else what is set. */
  value: (name: string, set: string | number | null | undefined) => string;
  /** By the names of fields. */
  errors: Record<string, string | undefined>;
  /** A press that sends the reader a test message, with its caption; nothing while the channel is not set up. */
  test: Snippet<[caption: string]>;
}
