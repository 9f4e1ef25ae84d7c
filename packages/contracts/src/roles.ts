/** Roles in rising order: each may do all that the ones before it may. */
export const ROLES = ['viewer', 'winder', 'tester', 'foreman', 'admin'] as const;
export type Role = (typeof ROLES)[number];

/** Whether a person of `role` may do what needs `needed`. */
export function may(role: Role, needed: Role): boolean {
  return ROLES.indexOf(role) >= ROLES.indexOf(needed);
}
