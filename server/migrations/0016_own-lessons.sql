-- Lessons that instructors write, and what a learner says against a mark.
CREATE TABLE own_lesson (
  operator_id uuid NOT NULL REFERENCES operator,
  type_id text NOT NULL,
  lesson_id text NOT NULL,
  text text NOT NULL,
  by_name text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, type_id, lesson_id)
);
GRANT SELECT, INSERT, UPDATE, DELETE ON own_lesson TO rouse_server;
ALTER TABLE own_lesson ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON own_lesson USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());

ALTER TABLE drill ADD COLUMN disputes jsonb NOT NULL DEFAULT '[]';
GRANT UPDATE (disputes) ON drill TO rouse_server;

CREATE OR REPLACE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE gone uuid := current_operator(); name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  DELETE FROM session s WHERE s.operator_id = gone;
  FOREACH name IN ARRAY ARRAY['release', 'exceedance_note', 'attachment', 'exceedance', 'trend_choice', 'run_feature', 'run_check', 'run_booking',
    'wait_duration', 'run_entry', 'trace_chunk', 'run', 'practice_flight', 'drill', 'own_lesson', 'csv_mapping', 'house_way', 'type_draft_edit', 'type_draft', 'defect',
    'maintenance', 'book_entry', 'due_item', 'site_report', 'device', 'aircraft', 'aircraft_type', 'pad', 'site', 'standard_mass', 'invitation',
    'identity_provider', 'tablet', 'acknowledgement', 'audit', 'demo_load', 'person', 'operator'] LOOP
    EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;
