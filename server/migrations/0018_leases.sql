-- Several servers work with one database. The fleet of an operator, every tail with its line, belongs to one of them at a
-- time; the number of its tenure goes with every write, so that a server that has lost the fleet can write no more.
CREATE TABLE server (
  server_id uuid PRIMARY KEY,
  -- where it is reached by the others: host, port of pages, port of lines, ports of the demo's tails
  doors jsonb NOT NULL,
  -- counts up while it lives
  beat bigint NOT NULL
);
CREATE TABLE fleet_lease (
  operator_id uuid PRIMARY KEY REFERENCES operator ON DELETE CASCADE,
  -- null: free to be taken
  server_id uuid REFERENCES server ON DELETE SET NULL,
  fence bigint NOT NULL
);
GRANT SELECT, INSERT, UPDATE, DELETE ON server TO rouse_server;
GRANT SELECT, INSERT ON fleet_lease TO rouse_server;
GRANT UPDATE (server_id, fence) ON fleet_lease TO rouse_server;

-- Whose unit it is that speaks at the door of a server that does not have its fleet.
CREATE FUNCTION operator_of_unit(wanted_digest bytea, wanted_id uuid) RETURNS uuid
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT operator_id FROM device WHERE ended_at IS NULL AND (token_digest = wanted_digest OR device_id = wanted_id)
$$;
REVOKE ALL ON FUNCTION operator_of_unit(bytea, uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION operator_of_unit(bytea, uuid) TO rouse_server;
