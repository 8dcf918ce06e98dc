import { api } from './api.ts';
import { untilAnswered } from './request.ts';

/**
 * Changes that this tab shows and has not saved yet, kept over a reload and sent then in their order: whoever reloads
 * while the server is slow or away loses nothing.
 */

/** Requests that make changes; each changes nothing when it is sent a second time. */
type Changing = Pick<
  typeof api,
  | 'changeSetup'
  | 'changeFrame'
  | 'changeSubject'
  | 'sort'
  | 'setClock'
  | 'place'
  | 'changeStyle'
  | 'changePlan'
  | 'cropFrame'
>;

/** A request by the name of its function, so that it can be kept. */
export type Sending = { [C in keyof Changing]: { call: C; args: Parameters<Changing[C]> } }[keyof Changing];

type Answer = Awaited<ReturnType<Changing[keyof Changing]>>;

/** Sends until it is answered. @throws {RequestError} when it is refused. */
export function sendOut({ call, args }: Sending): Promise<Answer> {
  const send = api[call] as (...args: Sending['args']) => Promise<Answer>;
  return untilAnswered(() => send(...args));
}

const KEY = 'silent-lawn unsaved';
const onItsWay: Sending[] = [];

function keep(): void {
  try {
    if (onItsWay.length) sessionStorage.setItem(KEY, JSON.stringify(onItsWay));
    else sessionStorage.removeItem(KEY);
  } catch {
    // A tab without a memory, or a full one: the browser still asks before it is left.
  }
}

/** Keeps a change until it is `done`. */
export function keepUntilSaved(sending: Sending): { done: () => void } {
  onItsWay.push(sending);
  keep();
  return {
    done: () => {
      onItsWay.splice(onItsWay.indexOf(sending), 1);
      keep();
    },
  };
}

/**
 * Sends what an earlier life of this tab left unsaved.
 * @throws {RequestError} the last refusal; what was refused is not sent again.
 */
export async function sendLeft(): Promise<void> {
  let left: Sending[] = [];
  try {
    left = JSON.parse(sessionStorage.getItem(KEY) ?? '[]') as Sending[];
  } catch {
    // Not readable: nothing to send.
  }
  const keptOnes = left.map((sending) => ({ sending, ...keepUntilSaved(sending) }));
  let refused: unknown;
  for (const { sending, done } of keptOnes) {
    await sendOut(sending).catch((error: unknown) => (refused = error));
    done();
  }
  if (refused) throw refused;
}
