-- What each check found, as numbers with the stretch of the trace that shows them: the past that the next one is compared with.
CREATE TABLE run_check (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq int NOT NULL,
  aircraft_id uuid NOT NULL,
  at timestamptz NOT NULL,
  item text NOT NULL,
  check_id text NOT NULL,
  verdict text NOT NULL CHECK (verdict IN ('good', 'fault', 'unknown')),
  cause text,
  words text NOT NULL,
  figures jsonb NOT NULL,
  from_s double precision NOT NULL,
  to_s double precision NOT NULL,
  PRIMARY KEY (operator_id, run_id, seq),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);
-- How the temperatures of a wait went, by channel: the next warm-up is forecast by them.
ALTER TABLE wait_duration ADD COLUMN curves jsonb;

CREATE INDEX run_check_good_by_aircraft ON run_check (operator_id, aircraft_id, at DESC) WHERE verdict = 'good';
GRANT SELECT, INSERT ON run_check TO rouse_server;
ALTER TABLE run_check ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON run_check USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
