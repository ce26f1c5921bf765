/** What keeps something quiet, and the day after which a hush can end. */
export interface HushView {
  tomorrow: string;
  hushes: { id: number; until: string; by: string; note: string; mayEnd: boolean }[];
}
