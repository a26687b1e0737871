-- Words of the log are found by three letters at a time, in the runs of one operator.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
CREATE EXTENSION IF NOT EXISTS btree_gin;
CREATE INDEX run_by_words ON run USING gin (operator_id, (conditions COLLATE "C") gin_trgm_ops)
  -- a run is opened seldom and looked for often
  WITH (fastupdate = off);

-- Behind row-level security no comparison may use an index that could tell of the rows of others; this one looks at the
-- present operator's only. Planned for the words asked: rare ones by their letters, common ones row by row.
CREATE FUNCTION runs_that_say(pattern text, most int) RETURNS SETOF uuid
  LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = public AS $$
BEGIN
  RETURN QUERY EXECUTE 'SELECT run_id FROM run WHERE operator_id = $1 AND conditions COLLATE "C" ILIKE $2 LIMIT $3'
    USING current_operator(), pattern, most;
END $$;
REVOKE ALL ON FUNCTION runs_that_say(text, int) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION runs_that_say(text, int) TO rouse_server;
