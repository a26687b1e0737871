-- The past of a tail from before Rouse: a file is kept once, as a run of its own.
ALTER TABLE run DROP CONSTRAINT run_outcome_check,
  ADD CONSTRAINT run_outcome_check CHECK (outcome IN ('ready', 'shut-down', 'aborted', 'given-up', 'recorded'));

CREATE TABLE recording (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  name text NOT NULL,
  digest text NOT NULL,
  by text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, run_id),
  UNIQUE (operator_id, aircraft_id, digest),
  FOREIGN KEY (operator_id, run_id) REFERENCES run ON DELETE CASCADE
);
GRANT SELECT, INSERT ON recording TO rouse_server;
ALTER TABLE recording ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON recording USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
