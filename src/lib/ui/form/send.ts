/** Sends JSON and gives the answer back; what went wrong was announced by the frame. It is in the context `send`. */
export type Send = <T>(url: string, body: unknown) => Promise<T | { message: string; failed: true }>;
