ALTER TABLE run DROP CONSTRAINT run_outcome_check,
  ADD CONSTRAINT run_outcome_check CHECK (outcome IN ('ready', 'shut-down', 'aborted', 'given-up'));

-- What each run added to the books of its aircraft: starts, hours, cycles, uses of ratings.
CREATE TABLE run_booking (
  operator_id uuid NOT NULL,
  run_id uuid NOT NULL,
  aircraft_id uuid NOT NULL,
  at timestamptz NOT NULL,
  starts int NOT NULL,
  running_s double precision NOT NULL,
  flight_s double precision NOT NULL,
  booking jsonb NOT NULL,
  PRIMARY KEY (operator_id, run_id),
  FOREIGN KEY (operator_id, run_id) REFERENCES run
);
CREATE INDEX run_booking_by_aircraft ON run_booking (operator_id, aircraft_id);
GRANT SELECT, INSERT ON run_booking TO rouse_server;
ALTER TABLE run_booking ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON run_booking USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());

-- Practice on the simulator: kept apart from every aircraft's record.
CREATE TABLE practice_flight (
  operator_id uuid NOT NULL,
  practice_id uuid NOT NULL,
  person_id uuid NOT NULL,
  at timestamptz NOT NULL,
  type_id text NOT NULL,
  exercise text NOT NULL,
  result jsonb NOT NULL,
  PRIMARY KEY (operator_id, practice_id)
);
CREATE INDEX practice_flight_by_person ON practice_flight (operator_id, person_id, at DESC);
GRANT SELECT, INSERT ON practice_flight TO rouse_server;
ALTER TABLE practice_flight ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON practice_flight USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
