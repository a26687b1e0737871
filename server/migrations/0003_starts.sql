-- Start watches have another shape than before: stored types are written anew, in the present shape, from their files.
ALTER TABLE aircraft_type ALTER COLUMN digest DROP NOT NULL;
UPDATE aircraft_type SET digest = NULL;
