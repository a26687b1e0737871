import { z } from 'zod';
import { ROLES, type Role } from '../people/index.ts';

/** long enough that length alone protects it; a phrase is easier kept in mind than a riddle */
const SHORTEST_PASSWORD = 12;
const name = z.string().trim().min(2, 'has at least two letters').max(100);
const loginSchema = z.string().trim().min(3, 'has at least three letters').max(100);
const passwordSchema = z
  .string()
  .min(SHORTEST_PASSWORD, `has at least ${SHORTEST_PASSWORD} characters`)
  .max(200, 'has at most 200 characters');
const pinSchema = z.string().regex(/^\d{6}$/, 'has six digits');
const rolesSchema = z.array(z.enum(ROLES)).min(1, 'says at least one').max(ROLES.length);
const clockSchema = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'is a time of day in UTC, as 06:30');

export const passwordSignInSchema = z.strictObject({ login: z.string().max(200), password: z.string().max(500) });
export const codeSchema = z.strictObject({ code: z.string().regex(/^\d{6}$/, 'has six digits') });
export const demoSignInSchema = z.strictObject({ person: z.uuid() });
export const pinSignInSchema = z.strictObject({ person: z.uuid(), pin: pinSchema });
export const chooseOperatorSchema = z.strictObject({ operator: z.uuid() });
export const newPasswordSchema = z.strictObject({
  /** the present one, where there is one */
  password: z.string().max(500).nullable(),
  login: loginSchema,
  next: passwordSchema,
});
export const newPinSchema = z.strictObject({ pin: pinSchema.nullable() });
export const passkeyNameSchema = z.strictObject({ label: name, answer: z.record(z.string(), z.unknown()) });
export const passkeyAnswerSchema = z.record(z.string(), z.unknown());

export const siteSchema = z.strictObject({
  elev_ft: z.number().min(-1500, 'is an elevation in ft').max(20_000, 'is an elevation in ft'),
  variation_E_deg: z.number().min(-180).max(180),
  lat_deg: z.number().min(-90).max(90).nullable(),
  lon_deg: z.number().min(-180).max(180).nullable(),
  opens: clockSchema.nullable(),
  closes: clockSchema.nullable(),
});
export const placeNameSchema = z.string().trim().min(2, 'has at least two letters').max(60);
export const padSchema = z.strictObject({
  site: placeNameSchema,
  /** on its site, east and north of any point of it, m */
  x_m: z.number().min(-10_000).max(10_000),
  y_m: z.number().min(-10_000).max(10_000),
});
export const tailSchema = z
  .string()
  .trim()
  .regex(/^[A-Z0-9][A-Z0-9-]{1,9}$/, 'is a registration: two to ten capitals, digits and dashes');
const weighedSchema = z.strictObject({
  mass_kg: z.number().positive().max(100_000),
  arm_long_m: z.number().min(-50).max(50),
  arm_lat_m: z.number().min(-5).max(5),
});
export type Weighed = z.infer<typeof weighedSchema>;

export const foundSchema = z.strictObject({
  operator: name,
  site: siteSchema.extend({ name: placeNameSchema, pad: placeNameSchema }),
  person: z.strictObject({ name, login: loginSchema, password: passwordSchema }),
  aircraft: z.strictObject({ type: z.string(), tail: tailSchema, basic: weighedSchema.nullable() }),
});
export type Found = z.infer<typeof foundSchema>;

export const invitationSchema = z.strictObject({ name, roles: rolesSchema });
/** How somebody joins: with an account of their own to make, or with the one that they are signed in to. */
export const joinSchema = z.discriminatedUnion('with', [
  z.strictObject({ with: z.literal('password'), login: loginSchema, password: passwordSchema }),
  z.strictObject({ with: z.literal('my-account') }),
]);
export const personSchema = z.strictObject({ name, roles: rolesSchema });
export const tabletSchema = z.strictObject({ label: name });
export const newDeviceSchema = z.strictObject({ aircraft: z.uuid(), label: name });
export const defectSchema = z.strictObject({
  equipment: z.string().min(1).max(60),
  words: z.string().trim().min(3).max(500),
});
export const standardMassSchema = z.strictObject({ mass_kg: z.number().positive().max(300) });
export const aircraftSettingsSchema = z.strictObject({ pad: placeNameSchema, basic: weighedSchema.nullable() });
export const operatorSchema = z.strictObject({ name, place: z.string().trim().max(100), codesAsked: z.boolean() });
export const deleteOperatorSchema = z.strictObject({
  /** the name of the operator, typed by whoever means it */
  name: z.string().max(200),
});
export const identityProviderSchema = z.strictObject({
  label: name,
  issuer: z.url({ protocol: /^https?$/ }),
  clientId: z.string().min(1).max(200),
  clientSecret: z.string().min(1).max(500),
});
export const acknowledgeSchema = z.strictObject({ version: z.int().min(1) });

/** Who is signed in on this browser, and by which doors somebody can be. */
export interface SessionMessage {
  /** null: nobody */
  person: {
    personId: string;
    way: string;
    /** null until one of several operators is chosen, and for somebody who works for none */
    member: {
      operatorId: string;
      operator: string;
      demo: boolean;
      name: string;
      roles: readonly Role[];
      /** roles that wait for a passkey or a code */
      unproven: readonly Role[];
      acknowledged: boolean;
    } | null;
    operators: { operatorId: string; name: string }[];
  } | null;
  /** what an empty database offers: nobody has set Rouse up here */
  empty: boolean;
  /** people of the demo, each signed in by one press */
  demo: { personId: string; name: string; roles: readonly Role[] }[];
  signOn: { operatorId: string; label: string }[];
  /** this browser is a tablet of the crew room */
  tablet: { label: string; people: { personId: string; name: string }[] } | null;
  /** what can be flown from the first day */
  types: { id: string; name: string; basic: Weighed }[];
}

export interface AccountMessage {
  login: string | null;
  hasPassword: boolean;
  hasCodes: boolean;
  hasPin: boolean;
  passkeys: { id: string; label: string; madeAt: string }[];
}
export interface SessionRow {
  id: string;
  way: string;
  device: string;
  address: string;
  madeAt: string;
  seenAt: string;
  here: boolean;
}
export interface PersonMessage {
  personId: string;
  name: string;
  roles: Role[];
  joinedAt: string;
  leftAt: string | null;
}
export interface InvitationMessage {
  id: string;
  kind: 'join' | 'reset';
  name: string;
  roles: Role[];
  madeBy: string;
  until: string;
  usedAt: string | null;
}
/** A link that was just made: shown once. */
export interface LinkMade {
  link: string;
  until: string;
}
/** What somebody is asked who follows a link. */
export interface InvitationAsked {
  kind: 'join' | 'reset';
  operator: string;
  name: string;
  roles: Role[];
  /** of a reset: the name that is signed in with */
  login: string | null;
  signOn: { label: string } | null;
}
export interface TabletMessage {
  id: string;
  label: string;
  enrolledBy: string;
  enrolledAt: string;
}
export interface DeviceMessage {
  id: string;
  aircraft: string;
  tail: string;
  label: string;
  madeBy: string;
  madeAt: string;
  connected: boolean;
  /** lines that could not be read, and connections and datagrams that were refused, since the server began */
  refused: number;
}
export interface DeviceMade {
  id: string;
  /** what the unit says first; shown once */
  token: string;
  port: number;
}
export interface SiteMessage extends z.infer<typeof siteSchema> {
  site: string;
  pads: { pad: string; x_m: number; y_m: number; tails: string[] }[];
}
export interface DefectMessage {
  id: string;
  equipment: string;
  words: string;
  openedBy: string;
  openedAt: string;
}
export interface OperatorMessage {
  name: string;
  place: string;
  codesAsked: boolean;
  demo: boolean;
  identityProvider: { label: string; issuer: string; clientId: string } | null;
}
export interface AuditMessage {
  /** the first entry that does not follow from the one before, null for a whole chain */
  broken: number | null;
  entries: { seq: number; at: string; by: string; act: string; words: string }[];
}
