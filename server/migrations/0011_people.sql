-- People, operators and devices are made by people from here on, the demo's as everybody's: what was loaded before goes.
TRUNCATE operator CASCADE;

ALTER TABLE operator
  -- made up, to look around in: anybody on this machine may sign in as one of its people
  ADD COLUMN demo boolean NOT NULL DEFAULT false,
  -- engineers and administrators act as such only after a passkey, a code or their organisation's sign-on
  ADD COLUMN codes_asked boolean NOT NULL DEFAULT false,
  ADD COLUMN founded_at timestamptz NOT NULL DEFAULT now();

-- Who somebody is, whatever operator they work for.
CREATE TABLE account (
  account_id uuid PRIMARY KEY,
  -- null: signs in by something else than a name and a password
  login text,
  password text,
  -- sealed with the key of the server, which is not in the database
  totp_secret bytea,
  -- the last step whose code was used: a code works once
  totp_step bigint NOT NULL DEFAULT 0,
  made_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX account_login ON account (lower(login));
CREATE TABLE passkey (
  credential_id text PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  public_key bytea NOT NULL,
  counter bigint NOT NULL,
  transports text[] NOT NULL,
  label text NOT NULL,
  made_at timestamptz NOT NULL
);
CREATE INDEX passkey_by_account ON passkey (account_id);
-- Who an organisation's identity provider says somebody is: by issuer and subject, never by an address.
CREATE TABLE outside_identity (
  issuer text NOT NULL,
  subject text NOT NULL,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  PRIMARY KEY (issuer, subject)
);
CREATE TABLE session (
  -- the browser has the token, the table only its digest
  token_digest bytea PRIMARY KEY,
  session_id uuid NOT NULL UNIQUE,
  account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
  -- null until a person who works for several has chosen
  operator_id uuid REFERENCES operator ON DELETE CASCADE,
  tablet_id uuid,
  way text NOT NULL CHECK (way IN ('password', 'code', 'passkey', 'sign-on', 'pin', 'demo')),
  device text NOT NULL,
  address text NOT NULL,
  made_at timestamptz NOT NULL,
  seen_at timestamptz NOT NULL
);
CREATE INDEX session_by_account ON session (account_id);
-- What has to come back exactly once, to the same browser: a challenge, a state, a secret that is tried.
CREATE TABLE flow (
  token_digest bytea PRIMARY KEY,
  data jsonb NOT NULL,
  until timestamptz NOT NULL
);
-- the shape that rate-limiter-flexible expects
CREATE TABLE rate_limit (
  key varchar(255) PRIMARY KEY,
  points integer NOT NULL DEFAULT 0,
  expire bigint
);
GRANT SELECT, INSERT, UPDATE, DELETE ON account, passkey, outside_identity, session, flow, rate_limit TO rouse_server;

ALTER TABLE person DROP COLUMN role,
  ADD COLUMN roles text[] NOT NULL DEFAULT '{}'
    CHECK (roles <@ ARRAY['pilot', 'instructor', 'engineer', 'administrator', 'reader']),
  ADD COLUMN pin text,
  ADD COLUMN joined_at timestamptz NOT NULL DEFAULT now(),
  ADD COLUMN left_at timestamptz,
  ADD FOREIGN KEY (person_id) REFERENCES account;
CREATE INDEX person_by_account ON person (person_id);

-- One-time links that an administrator hands over: to join, or to choose another password.
CREATE TABLE invitation (
  operator_id uuid NOT NULL REFERENCES operator,
  invitation_id uuid NOT NULL,
  token_digest bytea NOT NULL,
  kind text NOT NULL CHECK (kind IN ('join', 'reset')),
  name text NOT NULL,
  roles text[] NOT NULL,
  -- whose password, for a reset
  person_id uuid,
  made_by text NOT NULL,
  made_at timestamptz NOT NULL,
  until timestamptz NOT NULL,
  used_at timestamptz,
  PRIMARY KEY (operator_id, invitation_id)
);
CREATE TABLE identity_provider (
  operator_id uuid NOT NULL REFERENCES operator,
  label text NOT NULL,
  issuer text NOT NULL,
  client_id text NOT NULL,
  -- sealed as the secrets of codes are
  client_secret bytea NOT NULL,
  PRIMARY KEY (operator_id)
);
-- A tablet of the crew room: people of the operator take it with a PIN.
CREATE TABLE tablet (
  operator_id uuid NOT NULL REFERENCES operator,
  tablet_id uuid NOT NULL,
  label text NOT NULL,
  token_digest bytea NOT NULL,
  enrolled_by text NOT NULL,
  enrolled_at timestamptz NOT NULL,
  ended_at timestamptz,
  PRIMARY KEY (operator_id, tablet_id)
);
CREATE TABLE acknowledgement (
  operator_id uuid NOT NULL REFERENCES operator,
  person_id uuid NOT NULL,
  version int NOT NULL,
  -- as it was shown
  words text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, person_id, version)
);
-- Every act that matters, chained as a journal is.
CREATE TABLE audit (
  operator_id uuid NOT NULL REFERENCES operator,
  seq int NOT NULL,
  at timestamptz NOT NULL,
  by text NOT NULL,
  act text NOT NULL,
  words text NOT NULL,
  hash text NOT NULL,
  PRIMARY KEY (operator_id, seq)
);
CREATE TABLE site (
  operator_id uuid NOT NULL REFERENCES operator,
  site text NOT NULL,
  elev_ft double precision NOT NULL,
  variation_e_deg double precision NOT NULL,
  lat_deg double precision,
  lon_deg double precision,
  -- HH:MM in UTC; null: always open
  opens text,
  closes text,
  PRIMARY KEY (operator_id, site)
);
ALTER TABLE pad DROP COLUMN elev_ft, DROP COLUMN variation_e_deg,
  ADD FOREIGN KEY (operator_id, site) REFERENCES site;
ALTER TABLE aircraft
  ADD FOREIGN KEY (operator_id, pad) REFERENCES pad,
  -- as this one was weighed; null: as its type says
  ADD COLUMN basic_kg double precision CHECK (basic_kg > 0),
  ADD COLUMN basic_arm_long_m double precision,
  ADD COLUMN basic_arm_lat_m double precision,
  ADD CONSTRAINT weighed_whole CHECK (num_nulls(basic_kg, basic_arm_long_m, basic_arm_lat_m) IN (0, 3));
-- Equipment that is missing or defective until somebody says that it is not any more.
CREATE TABLE defect (
  operator_id uuid NOT NULL,
  defect_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  equipment text NOT NULL,
  words text NOT NULL,
  opened_by text NOT NULL,
  opened_at timestamptz NOT NULL,
  closed_by text,
  closed_at timestamptz,
  PRIMARY KEY (operator_id, defect_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft
);
CREATE INDEX defect_open ON defect (operator_id, aircraft_id) WHERE closed_at IS NULL;
-- What a person weighs where nobody was weighed.
CREATE TABLE standard_mass (
  operator_id uuid NOT NULL REFERENCES operator,
  label text NOT NULL,
  mass_kg double precision NOT NULL CHECK (mass_kg > 0),
  PRIMARY KEY (operator_id, label)
);
-- A data line: the unit says its token first. Only digests are kept.
ALTER TABLE device DROP CONSTRAINT device_kind_check,
  ADD CHECK (kind IN ('stand-in', 'unit')),
  ADD COLUMN token_digest bytea,
  -- what the datagrams of this unit are signed with
  ADD COLUMN datagram_key bytea,
  ADD COLUMN made_by text NOT NULL,
  ADD COLUMN made_at timestamptz NOT NULL,
  ADD COLUMN ended_at timestamptz;

-- The second person who reads a draft is another person, not another name.
ALTER TABLE type_draft ADD COLUMN sent_by_person uuid;
GRANT UPDATE (sent_by_person) ON type_draft TO rouse_server;

GRANT INSERT ON operator TO rouse_server;
GRANT UPDATE (name, place, codes_asked) ON operator TO rouse_server;
GRANT SELECT, INSERT ON invitation, tablet, acknowledgement, audit, defect TO rouse_server;
GRANT UPDATE (used_at) ON invitation TO rouse_server;
GRANT UPDATE (ended_at) ON tablet TO rouse_server;
GRANT UPDATE (closed_by, closed_at) ON defect TO rouse_server;
GRANT SELECT, INSERT, UPDATE, DELETE ON identity_provider, site, standard_mass TO rouse_server;
DO $$ DECLARE name text; BEGIN
  FOREACH name IN ARRAY ARRAY['invitation', 'identity_provider', 'tablet', 'acknowledgement', 'audit', 'site', 'defect', 'standard_mass'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_operator ON %I USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator())', name);
  END LOOP;
END $$;
-- The names of operators are no secret to the server, which has to find the right one; it changes its present one only.
ALTER TABLE operator ENABLE ROW LEVEL SECURITY;
CREATE POLICY every_operator ON operator FOR SELECT USING (true);
CREATE POLICY found_operator ON operator FOR INSERT WITH CHECK (operator_id = current_operator());
CREATE POLICY own_operator ON operator FOR UPDATE USING (operator_id = current_operator());

-- The operators that an account works for: looked at before one of them is chosen.
CREATE FUNCTION memberships_of(account uuid)
  RETURNS TABLE (operator_id uuid, operator text, demo boolean, codes_asked boolean, name text, roles text[])
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT o.operator_id, o.name, o.demo, o.codes_asked, p.name, p.roles
  FROM person p JOIN operator o USING (operator_id) WHERE p.person_id = account AND p.left_at IS NULL ORDER BY o.name
$$;
-- An operator that leaves takes everything along. Runs as the owner of the tables, for the present operator only.
CREATE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE gone uuid := current_operator(); name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  DELETE FROM session s WHERE s.operator_id = gone;
  FOREACH name IN ARRAY ARRAY['release', 'exceedance', 'run_feature', 'run_check', 'run_booking', 'wait_duration', 'run_entry', 'trace_chunk', 'run',
    'practice_flight', 'csv_mapping', 'house_way', 'type_draft_edit', 'type_draft', 'defect', 'device', 'aircraft', 'aircraft_type', 'pad', 'site',
    'standard_mass', 'invitation', 'identity_provider', 'tablet', 'acknowledgement', 'audit', 'demo_load', 'person', 'operator'] LOOP
    EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;
REVOKE ALL ON FUNCTION memberships_of(uuid), forget_operator() FROM PUBLIC;
GRANT EXECUTE ON FUNCTION memberships_of(uuid), forget_operator() TO rouse_server;
