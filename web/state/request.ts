import { z } from 'zod';
import { problemSchema, type Problem } from '../../contract/index.ts';

/** How the page asks the server. */

/** A request that was refused or failed, in words. */
export class RequestError extends Error {
  override name = 'RequestError';
  /**
   * @param passing the server was away or still waits for its database: the same request may go through in a moment.
   */
  constructor(
    readonly problem: Problem,
    readonly passing = false,
  ) {
    super(problem.reason);
  }
}

export const away: Problem = {
  reason: 'Silent Lawn does not answer',
  remedy: 'See whether it still runs in its terminal and start it again; nothing that was saved is lost.',
};

export async function request<T>(schema: z.ZodType<T>, method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new RequestError(away, true);
  }
  if (!response.ok) {
    const problem = problemSchema.safeParse(await response.json().catch(() => undefined));
    const passing = response.status === 503 || !problem.success;
    // What makes something new is not sent twice by itself.
    const told =
      problem.success && passing && method === 'POST'
        ? { ...problem.data, remedy: 'Do it once more in a moment; nothing that was saved is lost.' }
        : problem.data;
    throw new RequestError(told ?? away, passing);
  }
  return schema.parse(response.status === 204 ? undefined : await response.json());
}

/** Between two tries of what may go through in a moment, ms. */
const AGAIN_AFTER = 1000;

/** Repeats a request that changes nothing when it is sent twice, until it is answered. */
export async function untilAnswered<T>(send: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await send();
    } catch (error) {
      if (!(error instanceof RequestError) || !error.passing) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER));
    }
  }
}

/** Sends one file; XMLHttpRequest, because fetch tells nothing about the progress of an upload. */
export function upload<T>(
  schema: z.ZodType<T>,
  path: string,
  file: File,
  onProgress: (share: number) => void,
  query: Record<string, string> = {},
): Promise<T> {
  return new Promise((resolve, reject) => {
    const xhr = new XMLHttpRequest();
    xhr.open('POST', `/api${path}?${new URLSearchParams({ name: file.name, ...query })}`);
    xhr.setRequestHeader('content-type', 'application/octet-stream');
    xhr.upload.onprogress = (event) => onProgress(event.lengthComputable ? event.loaded / event.total : 0);
    xhr.onerror = () => reject(new RequestError(away, true));
    xhr.onload = () => {
      let answer: unknown;
      try {
        answer = JSON.parse(xhr.responseText);
      } catch {
        answer = undefined;
      }
      const result = schema.safeParse(answer);
      if (xhr.status < 300 && result.success) resolve(result.data);
      else reject(new RequestError(problemSchema.safeParse(answer).data ?? away, xhr.status === 503));
    };
    xhr.send(file);
  });
}
