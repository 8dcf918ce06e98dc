import type { ErrorRequestHandler, NextFunction, Request, RequestHandler, Response } from 'express';
import { z, ZodError } from 'zod';
import { idSchema, type Problem } from '../../contract/index.ts';
import { faultOf } from '../faults.ts';
import type { Log } from '../log.ts';
import { BrokenOff } from '../store/store.ts';

/** A refusal that the person can act on; becomes {reason, remedy} with the given HTTP status. */
export class Refusal extends Error {
  override name = 'Refusal';
  constructor(
    readonly status: 400 | 403 | 404 | 409,
    readonly problem: Problem,
  ) {
    super(problem.reason);
  }
}

export function notFound(what: string): Refusal {
  return new Refusal(404, {
    reason: `this ${what} does not exist (any more)`,
    remedy: 'Go back to the list and reload the page.',
  });
}

/** An item that was just read. @throws Refusal if it is gone. */
export function found<T>(item: T | undefined, what: string): T {
  if (item === undefined) throw notFound(what);
  return item;
}

export function idOf(request: Request, name = 'id'): number {
  return parse(idSchema, request.params[name], name);
}

/** @throws Refusal naming the field, what is wrong with it. */
export function parse<T>(schema: z.ZodType<T>, value: unknown, field?: string): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new Refusal(400, problemOf(result.error, field));
}

function problemOf(error: ZodError, field?: string): Problem {
  const [issue] = error.issues;
  const where = [field, ...issue.path].filter((part) => part !== undefined && part !== '').join('.');
  return { reason: where ? `${where}: ${issue.message}` : issue.message, remedy: 'Correct the value and try again.' };
}

/** An asynchronous handler whose failure becomes an answer. */
export function handler(work: (request: Request, response: Response) => Promise<void>): RequestHandler {
  return (request, response, next) => {
    work(request, response).catch(next);
  };
}

/** Answers a failure in words; what we cannot explain is in the log under the request's name. */
export function answerFailure(log: Log): ErrorRequestHandler {
  return (error: unknown, request: Request, response: Response, _next: NextFunction): void => {
    const id = String(response.locals.id ?? '');
    // Whoever broke the request off waits for no answer, and it is nobody's fault.
    if (error instanceof BrokenOff || (error as { type?: string }).type === 'request.aborted') {
      log.info({ id, url: request.originalUrl }, 'A request was broken off');
      response.destroy();
      return;
    }
    if (response.headersSent) {
      log.warn({ id, err: error }, 'An answer broke off');
      response.destroy();
      return;
    }
    const answer = (status: number, problem: Problem): void => void response.status(status).json(problem);
    if (error instanceof Refusal) return answer(error.status, error.problem);
    const fault = faultOf(error);
    if (fault) {
      log[fault.status >= 500 ? 'warn' : 'info']({ id, err: error, url: request.originalUrl }, fault.problem.reason);
      if (fault.status === 503) response.set('retry-after', '1');
      return answer(fault.status, fault.problem);
    }
    const { status, type } = error as { status?: number; type?: string };
    if (type === 'entity.too.large')
      return answer(413, {
        reason: 'what was sent is larger than any setting can be',
        remedy: 'Send less of it at once.',
      });
    if (typeof status === 'number' && status < 500)
      return answer(status, { reason: (error as Error).message, remedy: 'Reload the page and try again.' });
    log.error({ id, err: error, url: request.originalUrl }, 'A request met a fault of ours');
    answer(500, {
      reason: 'the server met a fault of its own',
      remedy: `Try again; nothing that was saved is lost. The log in the data folder tells more under “${id}”.`,
    });
  };
}

/**
 * A picture may be kept for ever under an address that names its content (`v`: first digits of its hash), and is
 * asked for anew under any other.
 */
export function sendPicture(
  request: Request,
  response: Response,
  type: 'png' | 'jpeg',
  hash: string,
  content: Buffer,
): void {
  const { v } = request.query;
  const named = typeof v === 'string' && v.length >= 16 && hash.startsWith(v);
  response
    .type(type)
    .set('cache-control', named ? 'private, max-age=31536000, immutable' : 'no-cache')
    .send(content);
}
