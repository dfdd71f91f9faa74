/** What the stand-ins are. */
export const ROLES = ['load', 'meter', 'supply', 'charger', 'hands'] as const;
export type Role = (typeof ROLES)[number];
