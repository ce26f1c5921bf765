/** The ways by which a message can go, in the order in which one takes the place of another. */
export const CHANNELS = ['mail', 'text', 'chat', 'in-app'] as const;
export type ChannelName = (typeof CHANNELS)[number];
