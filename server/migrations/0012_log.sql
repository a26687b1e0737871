-- The made-up past tells its story anew.
DO $$ DECLARE made_up uuid; BEGIN
  FOR made_up IN SELECT operator_id FROM operator WHERE demo LOOP
    PERFORM set_config('rouse.operator', made_up::text, true);
    PERFORM forget_operator();
  END LOOP;
END $$;

-- What an engineer did to an aircraft: figures that depend on it begin anew.
CREATE TABLE maintenance (
  operator_id uuid NOT NULL,
  event_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  at timestamptz NOT NULL,
  kind text NOT NULL CHECK (kind IN ('battery', 'wash', 'unit', 'other')),
  words text NOT NULL,
  by text NOT NULL,
  PRIMARY KEY (operator_id, event_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft
);
CREATE INDEX maintenance_by_aircraft ON maintenance (operator_id, aircraft_id, at);

-- Whether trends count a run; the last word counts, and every word is kept.
CREATE TABLE trend_choice (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  at timestamptz NOT NULL,
  left_out boolean NOT NULL,
  reason text NOT NULL,
  by text NOT NULL,
  PRIMARY KEY (operator_id, run_id, at),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);

-- What is said and done about an exceedance before somebody releases it. Added to, never changed.
CREATE TABLE exceedance_note (
  operator_id uuid NOT NULL,
  note_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq int NOT NULL,
  kind text NOT NULL CHECK (kind IN ('done', 'disputed')),
  words text NOT NULL,
  by text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, note_id),
  FOREIGN KEY (operator_id, run_id, seq) REFERENCES exceedance
);
CREATE INDEX exceedance_note_by_exceedance ON exceedance_note (operator_id, run_id, seq, at);
CREATE TABLE attachment (
  operator_id uuid NOT NULL,
  attachment_id uuid NOT NULL,
  run_id uuid NOT NULL,
  seq int NOT NULL,
  name text NOT NULL,
  media_type text NOT NULL CHECK (media_type IN ('image/jpeg', 'image/png', 'application/pdf', 'text/plain')),
  size int NOT NULL CHECK (size BETWEEN 1 AND 5242880),
  digest text NOT NULL,
  data bytea NOT NULL,
  by text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, attachment_id),
  FOREIGN KEY (operator_id, run_id, seq) REFERENCES exceedance
);
ALTER TABLE attachment ALTER COLUMN data SET STORAGE EXTERNAL;
CREATE INDEX attachment_by_exceedance ON attachment (operator_id, run_id, seq, at);

-- What the books began with, and what was put right since. Amounts are added; nothing is overwritten.
CREATE TABLE book_entry (
  operator_id uuid NOT NULL,
  entry_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('opening', 'correction')),
  account text NOT NULL,
  amount double precision NOT NULL,
  reason text NOT NULL,
  by text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, entry_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft
);
CREATE UNIQUE INDEX book_opened_once ON book_entry (operator_id, aircraft_id, account) WHERE kind = 'opening';
CREATE INDEX book_entry_by_aircraft ON book_entry (operator_id, aircraft_id, at);

CREATE TABLE due_item (
  operator_id uuid NOT NULL,
  due_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  title text NOT NULL,
  -- an account of the books and the amount at which it is due, a day, or both
  account text,
  amount double precision,
  on_day date,
  -- an item that is past holds the next start
  holds boolean NOT NULL,
  set_by text NOT NULL,
  set_at timestamptz NOT NULL,
  done_by text,
  done_at timestamptz,
  done_words text,
  PRIMARY KEY (operator_id, due_id),
  FOREIGN KEY (operator_id, aircraft_id) REFERENCES aircraft,
  CHECK ((account IS NULL) = (amount IS NULL) AND num_nonnulls(amount, on_day) > 0),
  CHECK (num_nulls(done_by, done_at, done_words) IN (0, 3))
);
CREATE INDEX due_open ON due_item (operator_id, aircraft_id) WHERE done_at IS NULL;

-- One weather report for a site serves every aircraft on it.
CREATE TABLE site_report (
  operator_id uuid NOT NULL,
  site text NOT NULL,
  at timestamptz NOT NULL,
  report text NOT NULL,
  by text NOT NULL,
  PRIMARY KEY (operator_id, site, at),
  FOREIGN KEY (operator_id, site) REFERENCES site
);

ALTER TABLE run DROP CONSTRAINT run_source_check,
  ADD CONSTRAINT run_source_check CHECK (source IN ('stand-in', 'device', 'simulated', 'by-hand', 'recording'));
CREATE INDEX run_by_time ON run (operator_id, opened_at DESC, run_id DESC);
CREATE INDEX run_by_pilot ON run (operator_id, opened_by, opened_at DESC);
CREATE INDEX run_by_outcome ON run (operator_id, outcome, opened_at DESC);
CREATE INDEX run_booking_by_time ON run_booking (operator_id, aircraft_id, at);

GRANT SELECT, INSERT ON maintenance, trend_choice, exceedance_note, attachment, book_entry, due_item, site_report TO rouse_server;
GRANT UPDATE (done_by, done_at, done_words) ON due_item TO rouse_server;
DO $$ DECLARE name text; BEGIN
  FOREACH name IN ARRAY ARRAY['maintenance', 'trend_choice', 'exceedance_note', 'attachment', 'book_entry', 'due_item', 'site_report'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_operator ON %I USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator())', name);
  END LOOP;
END $$;

CREATE OR REPLACE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE gone uuid := current_operator(); name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  DELETE FROM session s WHERE s.operator_id = gone;
  FOREACH name IN ARRAY ARRAY['release', 'exceedance_note', 'attachment', 'exceedance', 'trend_choice', 'run_feature', 'run_check', 'run_booking',
    'wait_duration', 'run_entry', 'trace_chunk', 'run', 'practice_flight', 'csv_mapping', 'house_way', 'type_draft_edit', 'type_draft', 'defect',
    'maintenance', 'book_entry', 'due_item', 'site_report', 'device', 'aircraft', 'aircraft_type', 'pad', 'site', 'standard_mass', 'invitation',
    'identity_provider', 'tablet', 'acknowledgement', 'audit', 'demo_load', 'person', 'operator'] LOOP
    EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;
