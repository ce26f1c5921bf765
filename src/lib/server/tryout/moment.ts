/** When something is looked at: both clocks, ms. */
export interface Moment {
  workspaceMs: number;
  machineMs: number;
}
