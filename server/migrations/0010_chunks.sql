-- Recordings of the demo are kept in parts that can be read alone: they are flown anew.
TRUNCATE aircraft_type, aircraft CASCADE;
DELETE FROM demo_load;
