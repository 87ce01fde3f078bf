import { createCookie } from 'react-router';
import { limits } from '../accounts/sessions';

/** The only cookie there is. Behind TLS its name binds it to this host and to https. */
const cookies = {
  open: createCookie('bloodstone', { httpOnly: true, sameSite: 'lax', path: '/' }),
  secure: createCookie('__Host-bloodstone', { httpOnly: true, sameSite: 'lax', path: '/', secure: true }),
};
const of = (secure: boolean) => (secure ? cookies.secure : cookies.open);

export async function tokenOf(header: string | undefined, secure: boolean): Promise<string | undefined> {
  const value: unknown = await of(secure).parse(header ?? null);
  return typeof value === 'string' ? value.slice(0, 100) : undefined;
}

export const sessionCookie = (token: string, atBay: boolean, secure: boolean): Promise<string> =>
  of(secure).serialize(token, { maxAge: (atBay ? limits.bayAbsoluteMs : limits.absoluteMs) / 1000 });

export const endCookie = (secure: boolean): Promise<string> => of(secure).serialize('', { maxAge: 0 });
