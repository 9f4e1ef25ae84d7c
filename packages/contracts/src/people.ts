import { z } from 'zod';
import { ROLES, type Role } from './roles.ts';

const signIn = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9._-]{2,40}$/, 'Use 2 to 40 small letters, digits, dot, dash or underscore.');
const password = z.string().min(8, 'A password needs at least 8 characters.').max(200);
const pin = z.string().regex(/^\d{4,8}$/, 'A PIN is 4 to 8 digits.');

export const signInBody = z.strictObject({
  signIn: z.string().trim().toLowerCase().min(1).max(40),
  password: z.string().min(1).max(200),
});
export const pinBody = z.strictObject({ personId: z.uuid(), pin: z.string().min(1).max(8) });
export const setPinBody = z.strictObject({ pin });
export const ownPasswordBody = z.strictObject({ current: z.string().min(1).max(200), password });
export const setupBody = z.strictObject({
  name: z.string().trim().min(1).max(80),
  signIn,
  password,
  shopName: z.string().trim().min(1).max(80),
});
export const newPersonBody = z.strictObject({
  name: z.string().trim().min(1).max(80),
  signIn,
  role: z.enum(ROLES),
  password,
});
export const changePersonBody = z.strictObject({
  version: z.int(),
  name: z.string().trim().min(1).max(80),
  role: z.enum(ROLES),
  active: z.boolean(),
  password: password.optional(),
});

export interface PersonView {
  id: string;
  name: string;
  signIn: string;
  role: Role;
  active: boolean;
  hasPin: boolean;
  version: number;
}
export interface SessionView {
  person: PersonView;
  /** people who signed in fully on this device and may switch by PIN */
  known: { id: string; name: string; role: Role }[];
}
export interface SetupView {
  needsFirstAdmin: boolean;
  demo: { signIn: string; password: string; name: string; role: Role }[];
  shopName: string;
}
