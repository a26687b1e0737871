-- What every aircraft has flown in all, kept as runs are booked: Today asks for it, and must not add up the bookings of years.
CREATE TABLE booked_total (
  operator_id uuid NOT NULL REFERENCES operator,
  aircraft_id uuid NOT NULL,
  starts bigint NOT NULL,
  running_s double precision NOT NULL,
  flight_s double precision NOT NULL,
  PRIMARY KEY (operator_id, aircraft_id)
);
GRANT SELECT ON booked_total TO rouse_server;
ALTER TABLE booked_total ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON booked_total USING (operator_id = (SELECT current_operator()))
  WITH CHECK (operator_id = (SELECT current_operator()));
INSERT INTO booked_total SELECT operator_id, aircraft_id, sum(starts), sum(running_s), sum(flight_s)
  FROM run_booking GROUP BY operator_id, aircraft_id;

CREATE FUNCTION add_to_booked_total() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO booked_total AS t SELECT operator_id, aircraft_id, sum(starts), sum(running_s), sum(flight_s)
    FROM added GROUP BY operator_id, aircraft_id
  ON CONFLICT (operator_id, aircraft_id) DO UPDATE
    SET starts = t.starts + EXCLUDED.starts, running_s = t.running_s + EXCLUDED.running_s, flight_s = t.flight_s + EXCLUDED.flight_s;
  RETURN NULL;
END $$;
CREATE TRIGGER booked_total AFTER INSERT ON run_booking REFERENCING NEW TABLE AS added
  FOR EACH STATEMENT EXECUTE FUNCTION add_to_booked_total();

CREATE OR REPLACE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE gone uuid := current_operator(); name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  DELETE FROM session s WHERE s.operator_id = gone;
  FOREACH name IN ARRAY ARRAY['release', 'exceedance_note', 'attachment', 'exceedance', 'trend_choice', 'run_feature', 'run_check', 'run_booking',
    'booked_total', 'wait_duration', 'run_entry', 'trace_chunk', 'run', 'practice_flight', 'drill', 'own_lesson', 'csv_mapping', 'house_way', 'type_draft_edit', 'type_draft', 'defect',
    'maintenance', 'book_entry', 'due_item', 'site_report', 'device', 'aircraft', 'aircraft_type', 'pad', 'site', 'standard_mass', 'invitation',
    'identity_provider', 'tablet', 'acknowledgement', 'audit', 'demo_load', 'person', 'operator'] LOOP
    EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;

-- Whether a trend may have changed is asked of every aircraft with each look at Today.
CREATE INDEX run_check_by_aircraft ON run_check (operator_id, aircraft_id, at);
