-- Drills of persons: what was flown, from which everything follows, and what it was marked. No aircraft has part in them.
CREATE TABLE drill (
  operator_id uuid NOT NULL REFERENCES operator,
  drill_id uuid NOT NULL,
  person_id uuid NOT NULL,
  at timestamptz NOT NULL,
  type_id text NOT NULL,
  type_version int NOT NULL,
  lesson text NOT NULL,
  title text NOT NULL,
  flown jsonb NOT NULL,
  marks jsonb NOT NULL,
  sum smallint NOT NULL CHECK (sum BETWEEN 0 AND 100),
  signed_by text,
  signed_at timestamptz,
  notes jsonb NOT NULL DEFAULT '[]',
  PRIMARY KEY (operator_id, drill_id),
  FOREIGN KEY (operator_id, person_id) REFERENCES person ON DELETE CASCADE
);
CREATE INDEX drill_by_person ON drill (operator_id, person_id, type_id, at DESC);
GRANT SELECT, INSERT ON drill TO rouse_server;
GRANT UPDATE (signed_by, signed_at, notes) ON drill TO rouse_server;
ALTER TABLE drill ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON drill USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());

CREATE OR REPLACE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE gone uuid := current_operator(); name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  DELETE FROM session s WHERE s.operator_id = gone;
  FOREACH name IN ARRAY ARRAY['release', 'exceedance_note', 'attachment', 'exceedance', 'trend_choice', 'run_feature', 'run_check', 'run_booking',
    'wait_duration', 'run_entry', 'trace_chunk', 'run', 'practice_flight', 'drill', 'csv_mapping', 'house_way', 'type_draft_edit', 'type_draft', 'defect',
    'maintenance', 'book_entry', 'due_item', 'site_report', 'device', 'aircraft', 'aircraft_type', 'pad', 'site', 'standard_mass', 'invitation',
    'identity_provider', 'tablet', 'acknowledgement', 'audit', 'demo_load', 'person', 'operator'] LOOP
    EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;
