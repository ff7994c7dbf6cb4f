/** Series, photographs, takes with their history, originals, and what is sent out. */
export const up = [
  `CREATE TABLE blobs (
     sha256 char(64) PRIMARY KEY CHECK (sha256 ~ '^[0-9a-f]{64}$'),
     size bigint NOT NULL CHECK (size > 0),
     created_at timestamptz NOT NULL DEFAULT now()
   )`,
  `CREATE TABLE blob_chunks (
     sha256 char(64) NOT NULL REFERENCES blobs ON DELETE CASCADE,
     part integer NOT NULL CHECK (part >= 0),
     bytes bytea NOT NULL CHECK (octet_length(bytes) BETWEEN 1 AND 1048576),
     PRIMARY KEY (sha256, part)
   )`,
  `ALTER TABLE blob_chunks ALTER COLUMN bytes SET STORAGE EXTERNAL`,
  `CREATE TABLE series (
     id uuid PRIMARY KEY,
     title text NOT NULL CHECK (char_length(title) BETWEEN 1 AND 120),
     caption text NOT NULL DEFAULT '' CHECK (char_length(caption) <= 2000),
     cover_id uuid,
     created_at timestamptz NOT NULL DEFAULT now(),
     touched_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   )`,
  `CREATE TABLE photographs (
     id uuid PRIMARY KEY,
     series_id uuid NOT NULL REFERENCES series ON DELETE CASCADE,
     place double precision NOT NULL,
     title text NOT NULL CHECK (char_length(title) BETWEEN 1 AND 200),
     file_name text NOT NULL CHECK (char_length(file_name) BETWEEN 1 AND 255),
     sha256 char(64) NOT NULL REFERENCES blobs,
     media_type text NOT NULL,
     width integer NOT NULL CHECK (width > 0),
     height integer NOT NULL CHECK (height > 0),
     bits smallint NOT NULL CHECK (bits IN (8, 16)),
     grey boolean NOT NULL,
     profile text,
     current_take_id uuid,
     created_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   )`,
  `CREATE INDEX photographs_of_series ON photographs (series_id, place)`,
  `CREATE TABLE takes (
     id uuid PRIMARY KEY,
     photograph_id uuid NOT NULL REFERENCES photographs ON DELETE CASCADE,
     letter text NOT NULL CHECK (letter ~ '^[A-Z]+$'),
     name text NOT NULL DEFAULT '' CHECK (char_length(name) <= 120),
     revision integer NOT NULL DEFAULT 1 CHECK (revision > 0),
     current_state integer NOT NULL DEFAULT 0,
     redo_tip integer NOT NULL DEFAULT 0,
     created_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz,
     UNIQUE (photograph_id, letter)
   )`,
  `CREATE TABLE take_states (
     take_id uuid NOT NULL REFERENCES takes ON DELETE CASCADE,
     number integer NOT NULL CHECK (number >= 0),
     parent integer,
     label text NOT NULL DEFAULT '' CHECK (char_length(label) <= 120),
     treatment jsonb NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(),
     PRIMARY KEY (take_id, number),
     FOREIGN KEY (take_id, parent) REFERENCES take_states (take_id, number),
     CHECK (parent IS NULL OR parent < number)
   )`,
  `ALTER TABLE series ADD FOREIGN KEY (cover_id) REFERENCES photographs ON DELETE SET NULL`,
  `ALTER TABLE photographs ADD FOREIGN KEY (current_take_id) REFERENCES takes ON DELETE SET NULL`,
  `CREATE TABLE send_outs (
     id uuid PRIMARY KEY,
     take_id uuid NOT NULL REFERENCES takes ON DELETE CASCADE,
     series_id uuid NOT NULL REFERENCES series ON DELETE CASCADE,
     treatment jsonb NOT NULL,
     settings jsonb NOT NULL,
     file_name text NOT NULL,
     state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'stopped')),
     progress real NOT NULL DEFAULT 0 CHECK (progress BETWEEN 0 AND 1),
     problem text,
     result_sha256 char(64) REFERENCES blobs,
     result_size bigint,
     created_at timestamptz NOT NULL DEFAULT now(),
     touched_at timestamptz NOT NULL DEFAULT now(),
     cleared_at timestamptz,
     CHECK ((state = 'done') = (result_sha256 IS NOT NULL))
   )`,
  `CREATE INDEX send_outs_of_series ON send_outs (series_id, created_at)`,
];

export const down = [
  `DROP TABLE send_outs`,
  `ALTER TABLE series DROP COLUMN cover_id`,
  `ALTER TABLE photographs DROP COLUMN current_take_id`,
  `DROP TABLE take_states`,
  `DROP TABLE takes`,
  `DROP TABLE photographs`,
  `DROP TABLE series`,
  `DROP TABLE blob_chunks`,
  `DROP TABLE blobs`,
];
