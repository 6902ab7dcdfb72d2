import { randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import {
  allowInsecureRequests,
  authorizationCodeGrant,
  buildAuthorizationUrl,
  calculatePKCECodeChallenge,
  discovery,
  randomNonce,
  randomPKCECodeVerifier,
  randomState,
  type Configuration,
} from 'openid-client';
import { UniqueConstraintError } from 'sequelize';
import type { Person } from '$lib/shared/types';
import { config } from '../config';
import { database, rows } from '../database';
import { newId } from '../ids';
import { log } from '../log';
import { PersonRow } from '../models';
import { Refusal } from '../refusal';
import { byEmail, personOf } from './people';

/**
 * Signing in where people have an account already, by OpenID Connect: the operator names one issuer. Authorization code flow with PKCE, state and
 * nonce (OpenID Connect Core 1.0, RFC 7636).
 */

const LOOPBACK = /^http:\/\/(localhost|127\.0\.0\.1|\[::1\])(:\d+)?(\/|$)/;

let known: { readonly issuer: string; readonly found: Promise<Configuration> } | null = null;

/** What the issuer says of itself, asked once; one that does not answer is asked again the next time. */
function issuer(): Promise<Configuration> {
  const { oidc } = config;
  if (!oidc) throw new Refusal('not-found', 'There is no other way to sign in here.');
  if (known?.issuer === oidc.issuer) return known.found;
  const found = discovery(new URL(oidc.issuer), oidc.client, oidc.secret, undefined, {
    // Over the net only encrypted.
    ...(LOOPBACK.test(oidc.issuer) && { execute: [allowInsecureRequests] }),
    timeout: 10,
  });
  known = { issuer: oidc.issuer, found };
  found.catch(() => (known = null));
  return found;
}

/** What the browser keeps while somebody is at the issuer. */
export interface SignOnKept {
  readonly verifier: string;
  readonly state: string;
  readonly nonce: string;
}

/** The issuer, or a sentence where it does not answer. */
async function reached(): Promise<Configuration> {
  try {
    return await issuer();
  } catch (error) {
    if (error instanceof Refusal) throw error;
    log.error({ err: error }, 'signing in elsewhere does not work');
    throw new Refusal('busy', `${config.oidc?.name ?? 'It'} cannot be reached just now. Please try again.`);
  }
}

/** Where to send somebody, and what to keep until he comes back to `back`. */
export async function beginSignOn(back: string): Promise<{ readonly address: string; readonly kept: SignOnKept }> {
  const at = await reached();
  const kept: SignOnKept = { verifier: randomPKCECodeVerifier(), state: randomState(), nonce: randomNonce() };
  const address = buildAuthorizationUrl(at, {
    redirect_uri: back,
    scope: 'openid email profile',
    code_challenge: await calculatePKCECodeChallenge(kept.verifier),
    code_challenge_method: 'S256',
    state: kept.state,
    nonce: kept.nonce,
  });
  return { address: address.href, kept };
}

/** Who came back, by the address that he came back with. */
export async function endSignOn(address: URL, kept: SignOnKept | null): Promise<Person> {
  const again = 'Signing in did not work. Please begin again.';
  if (!kept) throw new Refusal('bad-request', again);
  const at = await reached();
  const tokens = await authorizationCodeGrant(at, address, {
    pkceCodeVerifier: kept.verifier,
    expectedState: kept.state,
    expectedNonce: kept.nonce,
    idTokenExpected: true,
  }).catch((error: unknown) => {
    log.warn({ err: error }, 'a sign-in that came back from elsewhere was refused');
    throw new Refusal('bad-request', again);
  });
  const claims = tokens.claims()!;
  const text = (value: unknown) => (typeof value === 'string' ? value.trim() : '');
  return personAt(at.serverMetadata().issuer, claims.sub, {
    email: claims['email_verified'] === true ? text(claims['email']) : '',
    name: text(claims['name']),
  });
}

/** The person that somebody is here: the one he was before, the one who has the address, or a new one. */
async function personAt(issuedBy: string, subject: string, { email, name }: { email: string; name: string }): Promise<Person> {
  const [before] = await rows<Person>('SELECT id, name, email FROM identities JOIN people ON id = person_id WHERE issuer = $1 AND subject = $2', [
    issuedBy,
    subject,
  ]);
  if (before) return personOf(before);
  if (!email) throw new Refusal('not-allowed', `${config.oidc?.name} does not confirm your e-mail address, so you cannot be known by it here.`);
  const person = (await byEmail(email)) ?? (await newPerson(email, name));
  await database().query('INSERT INTO identities (issuer, subject, person_id) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', {
    bind: [issuedBy, subject, person.id],
  });
  return personOf(person);
}

async function newPerson(email: string, name: string): Promise<PersonRow> {
  try {
    // Nobody knows a password of this account; one can be chosen by “I forgot my password”.
    return await PersonRow.create({
      id: newId(),
      name: (name || email.split('@')[0]!).slice(0, 80),
      email,
      passwordHash: await hash(randomBytes(32).toString('hex')),
    });
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    return (await byEmail(email))!;
  }
}
