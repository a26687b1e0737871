import type { Right } from './rights.ts';

/**
 * What a request needs: a right in the operator that the person works in; `member` for anybody of the operator;
 * `signed-in` for anybody with an account; nothing for `public`.
 */
export type Need = Right | 'member' | 'signed-in' | 'public';

export interface Route {
  method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** below /api; a colon begins what differs */
  path: string;
  need: Need;
  /** never refused for how often it is asked: a pilot stops a start by it */
  unlimited?: true;
}

const of = (need: Need, lines: string): Route[] =>
  lines
    .trim()
    .split('\n')
    .map((line) => {
      const [method, path] = line.trim().split(' ') as [Route['method'], string];
      return { method, path, need };
    });

/** Every route and what it needs. What is not in this table is not there. */
export const ROUTES: readonly Route[] = [
  ...of(
    'public',
    `GET /session
     POST /session/password
     POST /session/code
     POST /session/passkey/challenge
     POST /session/passkey
     POST /session/demo
     POST /session/pin
     GET /session/sign-on/:operator
     GET /session/sign-on-back
     POST /found
     GET /invitations/:token
     POST /invitations/:token`,
  ),
  ...of(
    'signed-in',
    `DELETE /session
     PUT /session/operator
     GET /account
     PUT /account/password
     PUT /account/pin
     POST /account/code
     PUT /account/code
     DELETE /account/code
     POST /account/passkeys/challenge
     POST /account/passkeys
     DELETE /account/passkeys/:credential
     GET /account/sessions
     DELETE /account/sessions/:session`,
  ),
  ...of('member', `POST /acknowledgements`),
  ...of(
    'read',
    `GET /today
     GET /pads
     GET /sites
     GET /types
     GET /types/library
     GET /types/drafts
     GET /types/drafts/:draft
     GET /types/:type/starts
     GET /types/:type/ways
     GET /types/:type/:version
     GET /aircraft/:aircraft/brief
     GET /aircraft/:aircraft/defects
     GET /log/tails
     GET /log/runs
     GET /log/me
     GET /aircraft/:aircraft/trends
     GET /aircraft/:aircraft/exceedances
     GET /aircraft/:aircraft/books
     GET /aircraft/:aircraft/books.csv
     GET /aircraft/:aircraft/month.pdf
     POST /aircraft/:aircraft/brief.pdf
     GET /exceedances/:run/:seq
     GET /exceedances/:run/:seq/report.pdf
     GET /attachments/:attachment
     GET /types/:type/:version/booklet.pdf
     GET /runs/:run/report.pdf
     GET /runs/:run
     GET /runs/:run/corridors
     GET /runs/:run/debrief
     GET /runs/:run/starts/:watch/:attempt/acts
     POST /runs/:run/what-if
     GET /runs/:run/trace
     GET /runs/:run/trace.csv
     GET /runs/:run/bundle.json
     GET /mappings/:type
     GET /standard-masses`,
  ),
  { method: 'POST', path: '/runs/:run/entries', need: 'run', unlimited: true },
  ...of(
    'run',
    `POST /runs
     POST /runs/brought
     POST /runs/:run/take-over
     PUT /mappings/:type
     POST /aircraft/:aircraft/defects
     POST /exceedances/:run/:seq/dispute
     PUT /sites/:site/report
     POST /stand-in/conditions
     POST /stand-in/prepare
     POST /stand-in/line
     POST /stand-in/move
     POST /stand-in/begin
     POST /stand-in/pace`,
  ),
  ...of(
    'drill',
    `GET /drill/due
     GET /drill/:type/:version
     POST /drill/flown
     POST /drill/rounds
     POST /drill/rooms
     POST /drill/flown/:drill/disputes
     GET /drill/record.pdf
     GET /practice
     POST /practice`,
  ),
  ...of(
    'oversee',
    `GET /log/people
     GET /log/people/:person
     GET /log/people/:person/training.pdf
     POST /drill/flown/:drill/signature
     GET /lessons/:type
     PUT /lessons/:type/:lesson
     DELETE /lessons/:type/:lesson`,
  ),
  ...of(
    'release',
    `POST /exceedances/:run/:seq/release
     POST /exceedances/:run/:seq/notes
     POST /exceedances/:run/:seq/attachments
     POST /aircraft/:aircraft/recordings
     POST /aircraft/:aircraft/maintenance
     POST /aircraft/:aircraft/books
     POST /aircraft/:aircraft/due
     POST /due/:due/done
     POST /runs/:run/trend-choice
     POST /types/drafts/:draft/release
     POST /defects/:defect/close`,
  ),
  ...of(
    'draft',
    `POST /types/drafts
     PUT /types/drafts/:draft/files
     POST /types/drafts/:draft/undo
     POST /types/drafts/:draft/review
     POST /types/drafts/:draft/reopen`,
  ),
  ...of(
    'administer',
    `PUT /types/:type/ways
     PUT /types/:type/tails
     POST /aircraft
     PUT /aircraft/:aircraft
     PUT /sites/:site
     PUT /pads/:pad
     DELETE /pads/:pad
     PUT /standard-masses/:label
     DELETE /standard-masses/:label
     GET /people
     PUT /people/:person
     DELETE /people/:person
     POST /people/:person/reset
     GET /invitations
     POST /invitations
     DELETE /invitations/:invitation
     GET /tablets
     POST /tablets
     DELETE /tablets/:tablet
     GET /devices
     POST /devices
     DELETE /devices/:device
     GET /operator
     PUT /operator
     GET /operator/export
     POST /operator/import
     DELETE /operator
     PUT /operator/identity-provider
     DELETE /operator/identity-provider
     GET /audit`,
  ),
];
