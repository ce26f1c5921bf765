import type { IncomingMessage, ServerResponse } from 'node:http';

/** What a stand-in has received. */
interface Box {
  byId(id: number): unknown;
  /** A page of what contains `search` and went to one address, newest first. @param to empty for everybody */
  list(search: string, to: string, offset: number, limit: number): { total: number; messages: unknown[] };
}

/** Answers what anybody may ask of a stand-in: its list, one message, and what it does wrong, which can be told to it. */
export async function answerList<F extends string>(
  box: Box,
  state: { fault: F },
  faults: readonly F[],
  request: IncomingMessage,
  response: ServerResponse
): Promise<void> {
  try {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://stand-in');
    const one = /^\/messages\/(\d+)$/.exec(pathname);
    if (one) {
      const found = box.byId(Number(one[1]));
      return send(response, found ? 200 : 404, found);
    }
    if (pathname === '/messages') {
      const limit = Math.min(1_000, Number(searchParams.get('limit') ?? 50));
      const offset = Number(searchParams.get('offset') ?? 0);
      return send(
        response,
        200,
        box.list(searchParams.get('search') ?? '', searchParams.get('to') ?? '', offset, limit)
      );
    }
    if (pathname !== '/fault') return send(response, 404, null);
    if (request.method === 'PUT') {
      const { fault } = JSON.parse(await bodyOf(request)) as { fault: F };
      if (!faults.includes(fault)) throw new Error(`There is no fault ${String(fault)}`);
      state.fault = fault;
    }
    send(response, 200, { fault: state.fault });
  } catch (error) {
    send(response, 400, { error: String(error) });
  }
}

export async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) text += String(chunk);
  return text;
}

export function send(
  response: ServerResponse,
  status: number,
  body: unknown,
  headers: Record<string, string> = {}
): void {
  response.writeHead(status, { 'content-type': 'application/json', ...headers });
  response.end(JSON.stringify(body));
}
