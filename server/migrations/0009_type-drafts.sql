-- Types that people write here: a draft is its edits, each of one file, and nothing of it is ever lost.
CREATE TABLE type_draft (
  operator_id uuid NOT NULL REFERENCES operator,
  draft_id uuid NOT NULL,
  type_id text NOT NULL,
  version int NOT NULL,
  name text NOT NULL,
  -- the version that it began with; null for one that begins with nothing that has flown
  based_on int,
  status text NOT NULL CHECK (status IN ('open', 'in-review', 'released')),
  begun_by text NOT NULL,
  begun_at timestamptz NOT NULL,
  sent_by text,
  released_by text,
  released_at timestamptz,
  PRIMARY KEY (operator_id, draft_id)
);
CREATE TABLE type_draft_edit (
  operator_id uuid NOT NULL,
  draft_id uuid NOT NULL,
  revision int NOT NULL CHECK (revision >= 0),
  file text NOT NULL,
  -- null: the file is gone
  text text,
  by text NOT NULL,
  at timestamptz NOT NULL,
  -- the edit that this one takes back
  undoes int,
  PRIMARY KEY (operator_id, draft_id, revision, file),
  FOREIGN KEY (operator_id, draft_id) REFERENCES type_draft
);
GRANT SELECT, INSERT ON type_draft, type_draft_edit TO rouse_server;
GRANT UPDATE (status, sent_by, released_by, released_at) ON type_draft TO rouse_server;
ALTER TABLE type_draft ENABLE ROW LEVEL SECURITY;
ALTER TABLE type_draft_edit ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_operator ON type_draft USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
CREATE POLICY own_operator ON type_draft_edit USING (operator_id = current_operator()) WITH CHECK (operator_id = current_operator());
