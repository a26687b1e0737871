-- Start watches have another shape than before: stored types are written anew, in the present shape, from their files.
ALTER TABLE aircraft_type ALTER COLUMN digest DROP NOT NULL;
UPDATE aircraft_type SET digest = NULL;

-- How files of one header are read into one type: made once by a person, kept for the next file.
CREATE TABLE csv_mapping (
  operator_id uuid NOT NULL REFERENCES operator,
  type_id text NOT NULL,
  header_digest text NOT NULL,
  mapping jsonb NOT NULL,
  saved_by uuid NOT NULL,
  saved_at timestamptz NOT NULL,
  PRIMARY KEY (operator_id, type_id, header_digest)
);
GRANT SELECT, INSERT, UPDATE ON csv_mapping TO rouse_server;
ALTER TABLE csv_mapping ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON csv_mapping USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
