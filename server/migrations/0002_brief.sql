-- Places, the house's ways of working, and how long waits took: what a brief is made of.

CREATE TABLE pad (
  operator_id uuid NOT NULL REFERENCES operator,
  pad text NOT NULL,
  site text NOT NULL,
  elev_ft double precision NOT NULL,
  variation_e_deg double precision NOT NULL,
  -- metres on the site, x east and y north
  x_m double precision NOT NULL,
  y_m double precision NOT NULL,
  PRIMARY KEY (operator_id, pad)
);

CREATE TABLE house_way (
  operator_id uuid NOT NULL REFERENCES operator,
  type_id text NOT NULL,
  choice text NOT NULL,
  alternative text NOT NULL,
  set_by uuid NOT NULL,
  set_at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, type_id, choice),
  FOREIGN KEY (operator_id, set_by) REFERENCES person (operator_id, person_id)
);

CREATE TABLE wait_duration (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  item text NOT NULL,
  aircraft_id uuid NOT NULL,
  at timestamptz NOT NULL,
  took_s double precision NOT NULL,
  oat_c double precision,
  PRIMARY KEY (operator_id, run_id, item),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);
CREATE INDEX wait_by_aircraft ON wait_duration (operator_id, aircraft_id, at DESC);

-- An exceedance is released by the engineer who looked, in words. Engineers need no account here.
ALTER TABLE exceedance DROP COLUMN released_by, ADD COLUMN engineer text, ADD COLUMN found text,
  ADD CONSTRAINT release_is_whole CHECK ((released_at IS NULL) = (engineer IS NULL) AND (engineer IS NULL) = (found IS NULL));

ALTER TABLE run DROP CONSTRAINT run_source_check;
ALTER TABLE run ADD CONSTRAINT run_source_check CHECK (source IN ('stand-in', 'device', 'simulated', 'by-hand'));

GRANT SELECT, INSERT, UPDATE, DELETE ON pad, house_way, wait_duration TO rouse_server;
DO $$ DECLARE name text; BEGIN
  FOREACH name IN ARRAY ARRAY['pad', 'house_way', 'wait_duration'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('CREATE POLICY own_operator ON %I USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator())', name);
  END LOOP;
END $$;
