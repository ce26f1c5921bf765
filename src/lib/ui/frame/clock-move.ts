/** Where the clock is to go; a chosen moment is on the viewer's wall. */
export type ClockMove =
  | { to: 'next bell' | 'hour' | 'tomorrow' }
  | { to: 'moment'; date: string; time: string }
  | { running: boolean };
