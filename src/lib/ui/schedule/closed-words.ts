/** What a schedule does on a day that is closed, as it is chosen. */
export const CLOSED_WORDS = {
  skip: 'not on a closed day',
  earlier: 'earlier on a closed day',
  later: 'later on a closed day',
  'as-is': 'also on a closed day'
} as const;
