import type { IncomingMessage, ServerResponse } from 'node:http';

/** Calls once when the other side of a long answer has gone: also where it went before anybody listened for it. */
export function whenGone(request: IncomingMessage, answer: ServerResponse, then: () => void): void {
  let told = false;
  const tell = () => {
    if (told) return;
    told = true;
    then();
  };
  answer.once('close', tell);
  request.once('close', tell);
  if (request.destroyed || answer.destroyed || answer.socket === null || answer.socket.destroyed) tell();
}
