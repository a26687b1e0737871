ALTER TABLE house_way RENAME TO operator_way;

-- What belongs to an operator goes with it, whatever tables there are: each after those that refer to it.
CREATE OR REPLACE FUNCTION forget_operator() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  gone uuid := current_operator();
  left_over text[];
  kept text[];
  name text;
BEGIN
  IF gone IS NULL THEN RAISE EXCEPTION 'no operator is chosen'; END IF;
  SELECT array_agg(c.relname ORDER BY c.relname) INTO left_over
    FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'operator_id' AND NOT a.attisdropped
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition;
  WHILE left_over IS NOT NULL LOOP
    kept := NULL;
    FOREACH name IN ARRAY left_over LOOP
      BEGIN
        EXECUTE format('DELETE FROM %I WHERE operator_id = $1', name) USING gone;
      EXCEPTION WHEN foreign_key_violation THEN
        kept := array_append(kept, name);
      END;
    END LOOP;
    IF kept = left_over THEN RAISE EXCEPTION 'these tables refer to each other: %', kept; END IF;
    left_over := kept;
  END LOOP;
  DELETE FROM account a WHERE NOT EXISTS (SELECT FROM person p WHERE p.person_id = a.account_id);
END $$;
