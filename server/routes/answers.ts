import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { z, ZodError } from 'zod';
import { idSchema, type Problem } from '../../contract/index.ts';
import { PictureError } from '../pictures/decode.ts';

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
  return new Refusal(404, { reason: `this ${what} does not exist (any more)`, remedy: 'Go back to the list and reload the page.' });
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

export function answerFailure(error: unknown, _request: Request, response: Response, _next: NextFunction): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  if (error instanceof Refusal) {
    response.status(error.status).json(error.problem);
    return;
  }
  if (error instanceof PictureError) {
    response.status(409).json({ reason: error.reason, remedy: error.remedy });
    return;
  }
  const status = (error as { status?: number }).status;
  if (typeof status === 'number' && status < 500) {
    response.status(status).json({ reason: (error as Error).message, remedy: 'Reload the page and try again.' });
    return;
  }
  console.error(error);
  response.status(500).json({ reason: 'the server met a fault of its own', remedy: 'Try again; nothing that was saved is lost.' });
}
