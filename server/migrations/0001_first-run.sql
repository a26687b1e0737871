-- Every row that belongs to an operator carries operator_id first in its key, so that the tables can be
-- distributed by operator; journal and trace are partitioned by the month in which their run was opened.

CREATE TABLE operator (
  operator_id uuid PRIMARY KEY,
  name text NOT NULL,
  place text NOT NULL
);

CREATE TABLE person (
  operator_id uuid NOT NULL REFERENCES operator,
  person_id uuid NOT NULL,
  name text NOT NULL,
  role text NOT NULL,
  PRIMARY KEY (operator_id, person_id)
);

CREATE TABLE aircraft_type (
  operator_id uuid NOT NULL REFERENCES operator,
  type_id text NOT NULL,
  version int NOT NULL,
  digest text NOT NULL,
  file jsonb NOT NULL,
  PRIMARY KEY (operator_id, type_id, version)
);

CREATE TABLE aircraft (
  operator_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  tail text NOT NULL,
  type_id text NOT NULL,
  type_version int NOT NULL,
  pad text NOT NULL,
  PRIMARY KEY (operator_id, aircraft_id),
  UNIQUE (operator_id, tail),
  FOREIGN KEY (operator_id, type_id, type_version) REFERENCES aircraft_type
);

CREATE TABLE device (
  operator_id uuid NOT NULL,
  device_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('stand-in', 'unit')),
  label text NOT NULL,
  PRIMARY KEY (operator_id, device_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft
);

CREATE TABLE run (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  run_month date NOT NULL,
  aircraft_id uuid NOT NULL,
  type_id text NOT NULL,
  type_version int NOT NULL,
  opened_by uuid NOT NULL,
  opened_at timestamptz NOT NULL,
  source text NOT NULL CHECK (source IN ('stand-in', 'device', 'simulated')),
  conditions text NOT NULL,
  closed_at timestamptz,
  outcome text CHECK (outcome IN ('ready', 'aborted', 'given-up')),
  PRIMARY KEY (operator_id, run_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft,
  FOREIGN KEY (operator_id, type_id, type_version) REFERENCES aircraft_type,
  FOREIGN KEY (operator_id, opened_by) REFERENCES person (operator_id, person_id)
);
CREATE INDEX run_by_aircraft ON run (operator_id, aircraft_id, opened_at DESC);
-- one aircraft has one open run
CREATE UNIQUE INDEX run_open ON run (operator_id, aircraft_id) WHERE closed_at IS NULL;

CREATE TABLE run_entry (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  run_month date NOT NULL,
  seq int NOT NULL,
  entry_id uuid NOT NULL,
  kind text NOT NULL,
  entry jsonb NOT NULL,
  hash text NOT NULL,
  PRIMARY KEY (operator_id, run_id, seq, run_month),
  UNIQUE (operator_id, entry_id, run_month)
) PARTITION BY RANGE (run_month);

CREATE TABLE trace_chunk (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  run_month date NOT NULL,
  first_t double precision NOT NULL,
  last_t double precision NOT NULL,
  frames int NOT NULL,
  data bytea NOT NULL,
  PRIMARY KEY (operator_id, run_id, first_t, run_month)
) PARTITION BY RANGE (run_month);
ALTER TABLE trace_chunk ALTER COLUMN data SET STORAGE EXTERNAL; -- compressed by our own codec

CREATE TABLE run_feature (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  attempt int NOT NULL,
  aircraft_id uuid NOT NULL,
  watch text NOT NULL,
  at timestamptz NOT NULL,
  good boolean NOT NULL,
  features jsonb NOT NULL,
  profile jsonb NOT NULL,
  PRIMARY KEY (operator_id, run_id, watch, attempt),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);
CREATE INDEX run_feature_by_aircraft ON run_feature (operator_id, aircraft_id, watch, at DESC);

CREATE TABLE exceedance (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq int NOT NULL,
  aircraft_id uuid NOT NULL,
  at timestamptz NOT NULL,
  record jsonb NOT NULL,
  released_by uuid,
  released_at timestamptz,
  PRIMARY KEY (operator_id, run_id, seq),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);
CREATE INDEX exceedance_open ON exceedance (operator_id, aircraft_id) WHERE released_at IS NULL;

-- What was loaded once and must not be loaded again.
CREATE TABLE demo_load (
  operator_id uuid NOT NULL REFERENCES operator,
  name text NOT NULL,
  loaded_at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, name)
);

-- The role that the server works as: it owns nothing, and sees one operator at a time.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'rouse_server') THEN CREATE ROLE rouse_server NOLOGIN; END IF;
END $$;
GRANT USAGE ON SCHEMA public TO rouse_server;
GRANT SELECT ON operator TO rouse_server;
GRANT SELECT, INSERT, UPDATE, DELETE ON person, aircraft_type, aircraft, device, run, run_entry, trace_chunk, run_feature, exceedance, demo_load TO rouse_server;
REVOKE UPDATE, DELETE ON run_entry FROM rouse_server; -- a journal is only ever added to
REVOKE UPDATE, DELETE ON aircraft_type FROM rouse_server; -- a version that has flown stays as it is

CREATE FUNCTION current_operator() RETURNS uuid LANGUAGE sql STABLE AS
  $$ SELECT nullif(current_setting('rouse.operator', true), '')::uuid $$;

DO $$ DECLARE name text; BEGIN
  FOREACH name IN ARRAY ARRAY['person', 'aircraft_type', 'aircraft', 'device', 'run', 'run_entry', 'trace_chunk', 'run_feature', 'exceedance', 'demo_load'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_operator ON %I USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator())', name);
  END LOOP;
END $$;

-- Makes the partitions of one month, when they are missing. Runs as the owner of the tables.
CREATE FUNCTION ensure_month(month date) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE suffix text := to_char(month, 'YYYYMM'); following date := (month + interval '1 month')::date; parent text;
BEGIN
  IF month <> date_trunc('month', month)::date THEN RAISE EXCEPTION 'ensure_month takes the first day of a month, not %', month; END IF;
  PERFORM pg_advisory_xact_lock(hashtext('ensure_month'));
  FOREACH parent IN ARRAY ARRAY['run_entry', 'trace_chunk'] LOOP
    IF to_regclass(parent || '_' || suffix) IS NULL THEN
      EXECUTE format('CREATE TABLE %I PARTITION OF %I FOR VALUES FROM (%L) TO (%L)', parent || '_' || suffix, parent, month, following);
    END IF;
  END LOOP;
END $$;
REVOKE ALL ON FUNCTION ensure_month(date) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION ensure_month(date) TO rouse_server;
