-- The server signs in as rouse_server itself, which is no superuser and owns nothing; `prepare` gives it its password.
-- Journals have another shape than before: runs of the demo are flown anew, and types are written anew from their files.
TRUNCATE run, run_entry, trace_chunk, run_feature, run_check, run_booking, wait_duration, exceedance;
DELETE FROM demo_load;
UPDATE aircraft_type SET digest = NULL;

-- An id is given once in a run. The page that sends it twice means the same entry.
ALTER TABLE run_entry DROP CONSTRAINT run_entry_operator_id_entry_id_run_month_key;
ALTER TABLE run_entry ADD UNIQUE (operator_id, run_id, entry_id, run_month);

-- Trace and exceedances are only ever added to, as the journal is; who released an exceedance stands beside it.
ALTER TABLE exceedance DROP CONSTRAINT release_is_whole, DROP COLUMN engineer, DROP COLUMN found, DROP COLUMN released_at;
CREATE INDEX exceedance_by_aircraft ON exceedance (operator_id, aircraft_id);
CREATE TABLE release (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq int NOT NULL,
  engineer text NOT NULL,
  found text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, run_id, seq),
  FOREIGN KEY (operator_id, run_id, seq) REFERENCES exceedance
);
GRANT SELECT, INSERT ON release TO rouse_server;
ALTER TABLE release ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON release USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());

REVOKE UPDATE, DELETE ON trace_chunk, exceedance, run FROM rouse_server;
GRANT UPDATE (closed_at, outcome) ON run TO rouse_server;
