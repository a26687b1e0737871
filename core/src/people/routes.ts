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
  /** what it does, or gives */
  what: string;
  /** never refused for how often it is asked: a pilot stops a start by it */
  unlimited?: true;
}

const of = (need: Need, lines: string): Route[] =>
  lines
    .trim()
    .split('\n')
    .map((line) => {
      const [method, path, ...words] = line.trim().split(' ') as [Route['method'], string, ...string[]];
      return { method, path, need, what: words.join(' ') };
    });

/** Every route and what it needs. What is not in this table is not there. */
export const ROUTES: readonly Route[] = [
  ...of(
    'public',
    `GET /session who is signed in, and who may sign in here
     POST /session/password signs in with a name and a password
     POST /session/code shows the second proof of a sign-in
     POST /session/passkey/challenge what a passkey has to answer
     POST /session/passkey signs in with a passkey
     POST /session/demo signs in as a person of the demo
     POST /session/pin signs in on a tablet of the operator with four digits or more
     GET /session/sign-on/:operator goes to the sign-on of an organisation
     GET /session/sign-on-back comes back from the sign-on of an organisation
     POST /found founds an operator with its first aircraft and its first person
     GET /invitations/:token what somebody is invited to
     GET /openapi.json this interface as a document of OpenAPI
     GET /openapi.html this interface as a page to read
     POST /invitations/:token takes an invitation, or a link to begin anew`,
  ),
  ...of(
    'signed-in',
    `DELETE /session signs out
     PUT /session/operator chooses the operator to work in
     GET /account own name, proofs and tablets
     PUT /account/password sets or changes the own password
     PUT /account/pin sets the digits for a tablet
     POST /account/code begins a second proof by code
     PUT /account/code keeps the second proof, shown once
     DELETE /account/code gives the second proof up
     POST /account/passkeys/challenge what a new passkey has to answer
     POST /account/passkeys keeps a new passkey
     DELETE /account/passkeys/:credential gives a passkey up
     GET /account/sessions where one is signed in
     DELETE /account/sessions/:session ends a sign-in elsewhere`,
  ),
  ...of('member', `POST /acknowledgements acknowledges what the application is and is not`),
  ...of(
    'read',
    `GET /today every aircraft: what is open, held and due
     GET /pads the pads
     GET /sites the sites with their reports
     GET /types the types with their versions
     GET /types/library what type files are made of
     GET /types/drafts the drafts of types
     GET /types/drafts/:draft a draft with its changes since
     GET /types/:type/starts starts that were flown with a type, to try a draft on
     GET /types/:type/ways the ways of working that the operator chose
     GET /types/:type/:version a type, as it is flown
     GET /aircraft/:aircraft/brief what the brief of an aircraft begins with
     GET /aircraft/:aircraft/defects the defects that were written down
     GET /log/tails every aircraft with its figures
     GET /log/runs runs that pass a filter, newest first
     GET /log/me own runs, drills and recency
     GET /aircraft/:aircraft/trends trends of an aircraft, with their findings
     GET /aircraft/:aircraft/exceedances exceedances of an aircraft
     GET /aircraft/:aircraft/books books of an aircraft and what is due
     GET /aircraft/:aircraft/books.csv books of an aircraft as a table
     GET /aircraft/:aircraft/month.pdf a month of an aircraft on paper
     POST /aircraft/:aircraft/brief.pdf a brief on paper, as it stands
     GET /exceedances/:run/:seq an exceedance with its papers
     GET /exceedances/:run/:seq/report.pdf an exceedance on paper
     GET /attachments/:attachment a paper of an exceedance
     GET /types/:type/:version/booklet.pdf a type as a booklet
     GET /runs/:run/report.pdf a run on paper
     GET /runs/:run a run with its journal
     GET /runs/:run/corridors what was usual for the aircraft when the run was begun
     GET /runs/:run/debrief a run judged: its starts, checks and findings
     GET /runs/:run/starts/:watch/:attempt/acts what was done in a start
     POST /runs/:run/what-if flies a start again on its twin with one act done otherwise
     GET /runs/:run/trace readings of a run, packed as docs/formats.md says
     GET /runs/:run/trace.csv readings of a run as a table
     GET /runs/:run/bundle.json a run whole, to be verified elsewhere
     GET /mappings/:type how columns of such a file were read before
     GET /standard-masses masses of people and loads that the operator reckons with`,
  ),
  {
    method: 'POST',
    path: '/runs/:run/entries',
    need: 'run',
    what: 'writes an entry into the journal of a run',
    unlimited: true,
  },
  ...of(
    'run',
    `POST /runs opens a run with its brief
     POST /runs/brought brings a run that was worked without a server
     POST /runs/:run/take-over takes a run over from whoever has it
     PUT /mappings/:type keeps how the columns of such a file are read
     POST /aircraft/:aircraft/defects writes a defect down
     POST /exceedances/:run/:seq/dispute says something against an exceedance
     PUT /sites/:site/report pastes a weather report of a site
     POST /stand-in/conditions chooses the conditions of a simulated aircraft
     POST /stand-in/prepare puts a simulated aircraft into its conditions, cold and dark
     POST /stand-in/line spoils the line of a simulated aircraft
     POST /stand-in/move moves what an item asks for in a simulated cockpit
     POST /stand-in/begin begins a leg in a simulated cockpit
     POST /stand-in/pace lets a simulated aircraft live faster`,
  ),
  ...of(
    'drill',
    `GET /drill/due what is due to be drilled
     GET /drill/:type/:version drills of a type
     POST /drill/flown hands in a drill, which is marked again
     POST /drill/rounds hands in a round of abort or go
     POST /drill/rooms opens a room in which an instructor may look on
     POST /drill/flown/:drill/disputes says something against a mark
     GET /drill/record.pdf own training on paper
     GET /practice own practice of one engine out
     POST /practice hands in a practice of one engine out`,
  ),
  ...of(
    'oversee',
    `GET /log/people the people with their recency
     GET /log/people/:person runs, drills and recency of a person
     GET /log/people/:person/training.pdf training of a person on paper
     POST /drill/flown/:drill/signature signs a drill as instructor
     GET /lessons/:type lessons that the operator wrote for a type
     PUT /lessons/:type/:lesson keeps a lesson
     DELETE /lessons/:type/:lesson takes a lesson away`,
  ),
  ...of(
    'release',
    `POST /exceedances/:run/:seq/release releases an exceedance, by name
     POST /exceedances/:run/:seq/notes writes down what was done about an exceedance
     POST /exceedances/:run/:seq/attachments keeps a paper with an exceedance
     POST /aircraft/:aircraft/recordings brings a recording from before along
     POST /aircraft/:aircraft/maintenance books maintenance
     POST /aircraft/:aircraft/books opens or corrects the books
     POST /aircraft/:aircraft/due sets what is due
     POST /due/:due/done says that what was due is done
     POST /runs/:run/trend-choice leaves a run out of trends, or takes it in again
     POST /types/drafts/:draft/release releases a type version, by name
     POST /defects/:defect/close closes a defect`,
  ),
  ...of(
    'draft',
    `POST /types/drafts begins a draft of a type
     PUT /types/drafts/:draft/files keeps a file of a draft
     POST /types/drafts/:draft/undo takes the last change of a draft back
     POST /types/drafts/:draft/review sends a draft to who releases it
     POST /types/drafts/:draft/reopen takes a draft back from review`,
  ),
  ...of(
    'administer',
    `PUT /types/:type/ways chooses how the operator works
     PUT /types/:type/tails lets an aircraft fly another version of its type
     POST /aircraft adds an aircraft
     PUT /aircraft/:aircraft sets where an aircraft stands and what it was weighed at
     PUT /sites/:site keeps a site
     PUT /pads/:pad keeps a pad
     DELETE /pads/:pad takes a pad away
     PUT /standard-masses/:label keeps a standard mass
     DELETE /standard-masses/:label takes a standard mass away
     GET /people the people and their roles
     PUT /people/:person names a person and sets the roles
     DELETE /people/:person lets a person go
     POST /people/:person/reset a link by which a person begins anew
     GET /invitations invitations that are open
     POST /invitations invites somebody
     DELETE /invitations/:invitation takes an invitation back
     GET /tablets tablets of the operator
     POST /tablets makes this browser a tablet of the operator
     DELETE /tablets/:tablet takes a tablet out of use
     GET /devices lines of aircraft, with what was heard last
     POST /devices lays a line for an aircraft, and gives its word once
     DELETE /devices/:device cuts a line
     GET /operator the operator and its rules
     PUT /operator sets the name and the rules of the operator
     GET /operator/export everything that the operator has, in files
     POST /operator/import brings what was exported into an empty operator
     DELETE /operator takes the operator away, with all it has
     PUT /operator/identity-provider sets the sign-on of the organisation
     DELETE /operator/identity-provider gives the sign-on of the organisation up
     GET /audit who changed what, newest first`,
  ),
];
