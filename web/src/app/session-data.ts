import type {
  AccountMessage,
  AuditMessage,
  DefectMessage,
  DeviceMade,
  DeviceMessage,
  Found,
  InvitationAsked,
  InvitationMessage,
  LinkMade,
  OperatorMessage,
  PersonMessage,
  SessionMessage,
  SessionRow,
  SiteMessage,
  TabletMessage,
  Weighed,
} from '@rouse/core/contract';
import { may, type Right, type Role } from '@rouse/core/people';
import { type Asked, serverData } from './server-data.ts';

type NewSite = Omit<SiteMessage, 'site' | 'pads'>;
const at = encodeURIComponent;

/** Who is signed in: asked and changed through the same store as everything else. */
const sessionData = serverData.injectEndpoints({
  endpoints: (build) => ({
    session: build.query<SessionMessage, void>({ query: () => '/session', providesTags: ['session'] }),
    signIn: build.mutation<
      SessionMessage | { need: 'code' },
      { way: 'password' | 'code' | 'demo' | 'pin' | 'passkey'; body: unknown }
    >({
      query: ({ way, body }) => ({ method: 'POST', path: `/session/${way}`, body }),
      invalidatesTags: (result) => (result && 'need' in result ? [] : ALL),
    }),
    signOut: build.mutation<SessionMessage, void>({
      query: () => ({ method: 'DELETE', path: '/session' }),
      invalidatesTags: ['session'],
    }),
    chooseOperator: build.mutation<SessionMessage, string>({
      query: (operator) => ({ method: 'PUT', path: '/session/operator', body: { operator } }),
      invalidatesTags: () => ALL,
    }),
    acknowledge: build.mutation<unknown, number>({
      query: (version) => ({ method: 'POST', path: '/acknowledgements', body: { version } }),
      invalidatesTags: ['session'],
    }),
    found: build.mutation<SessionMessage, Found>({
      query: (body) => ({ method: 'POST', path: '/found', body }),
      invalidatesTags: () => ALL,
    }),
    invitation: build.query<InvitationAsked, string>({ query: (token) => `/invitations/${token}` }),
    join: build.mutation<SessionMessage, { token: string; body: unknown }>({
      query: ({ token, body }) => ({ method: 'POST', path: `/invitations/${token}`, body }),
      invalidatesTags: () => ALL,
    }),
    account: build.query<AccountMessage, void>({ query: () => '/account', providesTags: ['account'] }),
    sessions: build.query<SessionRow[], void>({ query: () => '/account/sessions', providesTags: ['account'] }),
    changeAccount: build.mutation<unknown, Asked>({ query: (asked) => asked, invalidatesTags: ['account'] }),
    takeOver: build.mutation<unknown, string>({
      query: (run) => ({ method: 'POST', path: `/runs/${run}/take-over`, body: {} }),
      invalidatesTags: ['today'],
    }),
  }),
});

/** What an operator keeps. */
const setUpData = serverData.injectEndpoints({
  endpoints: (build) => ({
    people: build.query<PersonMessage[], void>({ query: () => '/people', providesTags: ['set-up'] }),
    invitations: build.query<InvitationMessage[], void>({ query: () => '/invitations', providesTags: ['set-up'] }),
    invite: build.mutation<LinkMade, { name: string; roles: Role[] }>({
      query: (body) => ({ method: 'POST', path: '/invitations', body }),
      invalidatesTags: ['set-up'],
    }),
    resetLink: build.mutation<LinkMade, string>({
      query: (person) => ({ method: 'POST', path: `/people/${person}/reset`, body: {} }),
      invalidatesTags: ['set-up'],
    }),
    tablets: build.query<TabletMessage[], void>({ query: () => '/tablets', providesTags: ['set-up'] }),
    devices: build.query<DeviceMessage[], void>({ query: () => '/devices', providesTags: ['set-up'] }),
    addDevice: build.mutation<DeviceMade, { aircraft: string; label: string }>({
      query: (body) => ({ method: 'POST', path: '/devices', body }),
      invalidatesTags: ['set-up'],
    }),
    sites: build.query<SiteMessage[], void>({ query: () => '/sites', providesTags: ['set-up'] }),
    putSite: build.mutation<unknown, { site: string; body: NewSite }>({
      query: ({ site, body }) => ({ method: 'PUT', path: `/sites/${at(site)}`, body }),
      invalidatesTags: ['set-up', 'today'],
    }),
    putPad: build.mutation<unknown, { pad: string; body: { site: string; x_m: number; y_m: number } }>({
      query: ({ pad, body }) => ({ method: 'PUT', path: `/pads/${at(pad)}`, body }),
      invalidatesTags: ['set-up', 'today', 'aircraft'],
    }),
    standardMasses: build.query<{ label: string; mass_kg: number }[], void>({
      query: () => '/standard-masses',
      providesTags: ['set-up'],
    }),
    defects: build.query<DefectMessage[], string>({
      query: (aircraft) => `/aircraft/${aircraft}/defects`,
      providesTags: ['set-up'],
    }),
    putAircraft: build.mutation<unknown, { aircraft: string; body: { pad: string; basic: Weighed | null } }>({
      query: ({ aircraft, body }) => ({ method: 'PUT', path: `/aircraft/${aircraft}`, body }),
      invalidatesTags: ['set-up', 'today', 'aircraft'],
    }),
    operator: build.query<OperatorMessage, void>({ query: () => '/operator', providesTags: ['set-up'] }),
    audit: build.query<AuditMessage, void>({ query: () => '/audit', providesTags: ['set-up'] }),
    /** any other change of what is set up */
    change: build.mutation<unknown, Asked>({
      query: (asked) => asked,
      invalidatesTags: ['set-up', 'today', 'aircraft', 'session', 'log'],
    }),
  }),
});

const ALL = [
  'session',
  'account',
  'set-up',
  'today',
  'types',
  'ways',
  'aircraft',
  'practice',
  'drill',
  'debrief',
  'log',
] as const;

const { useSessionQuery } = sessionData;

/** old enough to be asked again by the next part of a page that wants to know, s */
const SESSION_HOLDS_s = 60;

/** Who is signed in, and where. */
export const useSession = () => useSessionQuery(undefined, { refetchOnMountOrArgChange: SESSION_HOLDS_s });

/** Asks before the page is drawn: nothing of it is shown until it is known who looks. */
export const askSession = () => sessionData.endpoints.session.initiate(undefined, { subscribe: false });

export const {
  useSignInMutation,
  useSignOutMutation,
  useChooseOperatorMutation,
  useAcknowledgeMutation,
  useFoundMutation,
  useInvitationQuery,
  useJoinMutation,
  useAccountQuery,
  useSessionsQuery,
  useChangeAccountMutation,
  useTakeOverMutation,
} = sessionData;

export const {
  usePeopleQuery,
  useInvitationsQuery,
  useInviteMutation,
  useResetLinkMutation,
  useTabletsQuery,
  useDevicesQuery,
  useAddDeviceMutation,
  useSitesQuery,
  usePutSiteMutation,
  usePutPadMutation,
  useStandardMassesQuery,
  useDefectsQuery,
  usePutAircraftMutation,
  useOperatorQuery,
  useAuditQuery,
  useChangeMutation,
} = setUpData;

/** Who is signed in, in the operator that is worked in; null while nobody is. */
export function useMember(): NonNullable<NonNullable<SessionMessage['person']>['member']> | null {
  return useSession().data?.person?.member ?? null;
}

/** Who is signed in, undefined for nobody. */
export const usePersonId = (): string | undefined => useSession().data?.person?.personId;

/** Whether whoever is signed in may do something. */
export function useMay(right: Right): boolean {
  const member = useMember();
  return member !== null && may(member.roles, right);
}
