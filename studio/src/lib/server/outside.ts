import { lookup } from 'node:dns';
import { request as plainly } from 'node:http';
import { request as safely } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { config } from './config';

/** Requests to addresses that people have named: only to machines that anybody can reach, never into the operator's own network. */

/** Longer than this, ms, nobody is waited for. */
const PATIENCE = 10_000;

/** Whether an address of a machine is one on the open internet; also where it is written as one of IPv4 within IPv6. */
export function isOutside(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  return ipaddr.process(address).range() === 'unicast';
}

const mayReach = (address: string): boolean => config.hooksMayStay || isOutside(address);

/** Names are resolved here, so that what was looked at is what is connected to. */
const outsideOnly: LookupFunction = (host, options, done) =>
  lookup(host, { ...options, all: true }, (error, found) => {
    const reachable = error ? [] : found.filter(({ address }) => mayReach(address));
    const problem = error ?? (reachable.length ? null : new Error(`${host} is no machine on the open internet.`));
    if (problem) done(problem, '', 4);
    else if (options.all) (done as unknown as (error: null, found: typeof reachable) => void)(null, reachable);
    else done(null, reachable[0]!.address, reachable[0]!.family);
  });

/** What goes wrong on the way, by its code. */
const reasons: Readonly<Record<string, string>> = {
  ABORT_ERR: `There was no answer within ${PATIENCE / 1000} s.`,
  ECONNREFUSED: 'Nothing listens there.',
  ECONNRESET: 'It hung up.',
  ENOTFOUND: 'There is no machine of this name.',
  EAI_AGAIN: 'The name of the machine could not be looked up just now.',
};

/** Sends a text to an address and gives the status of the answer, of which nothing is read; redirects are not followed. */
export function postOutside(address: string, body: string, headers: Readonly<Record<string, string>>): Promise<number> {
  const url = new URL(address);
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (isIP(host) && !mayReach(host)) return Promise.reject(new Error(`${host} is no machine on the open internet.`));
  const request = url.protocol === 'https:' ? safely : plainly;
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      {
        method: 'POST',
        headers: { ...headers, 'content-length': Buffer.byteLength(body) },
        lookup: outsideOnly,
        signal: AbortSignal.timeout(PATIENCE),
        agent: false,
      },
      (answer) => {
        answer.destroy();
        resolve(answer.statusCode ?? 0);
      }
    );
    asked.on('error', (error: NodeJS.ErrnoException) => reject(new Error(reasons[error.code ?? ''] ?? error.message)));
    asked.end(body);
  });
}
