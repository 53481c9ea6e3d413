-- Since when somebody takes part: from the day they were added, or from the day they came back.
ALTER TABLE enrolment ADD COLUMN here_since TEXT NOT NULL DEFAULT '';
UPDATE enrolment SET here_since = created_at;

-- A code belongs to the browser that asked for it, so that nobody else's wrong tries spend it. Tries are counted in
-- memory, for addresses that nobody has as for others. The mail carries a link besides, kept as a hash like the code.
DROP TABLE sign_in_code;
CREATE TABLE sign_in_code (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  -- The cookie of the asking browser, hashed, and the network that it asked from.
  asker TEXT NOT NULL,
  network TEXT NOT NULL,
  -- None where only the link was sent.
  code_hash TEXT,
  link_hash TEXT NOT NULL UNIQUE,
  created_at TEXT NOT NULL,
  expires_at TEXT NOT NULL,
  used_at TEXT
) STRICT;
CREATE INDEX sign_in_code_by_person ON sign_in_code (person_id, created_at);
CREATE INDEX sign_in_code_by_end ON sign_in_code (expires_at);

-- A session is shown to its person in a list: from which kind of browser, under a name that may be told.
ALTER TABLE session ADD COLUMN code TEXT NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN device TEXT NOT NULL DEFAULT '';
UPDATE session SET code = lower(hex(randomblob(8)));
CREATE INDEX session_by_person ON session (person_id);
CREATE INDEX session_by_use ON session (last_seen_at);

-- Passkeys (Web Authentication, W3C): what the authenticator keeps the other half of.
CREATE TABLE passkey (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  credential_id TEXT NOT NULL UNIQUE,
  public_key BLOB NOT NULL,
  counter INTEGER NOT NULL,
  name TEXT NOT NULL,
  created_at TEXT NOT NULL,
  used_at TEXT
) STRICT;
CREATE INDEX passkey_by_person ON passkey (person_id);
-- The browser that was let in, as its cookie for asking has it: what it asks later is not counted with what others ask.
ALTER TABLE session ADD COLUMN asker TEXT NOT NULL DEFAULT '';

-- Mail about posts that name somebody: one at once, and what follows within the hour together in the next.
CREATE TABLE talk_notice (
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id) ON DELETE CASCADE,
  post_id INTEGER NOT NULL REFERENCES talk_post (id) ON DELETE CASCADE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id) ON DELETE CASCADE,
  -- The group's page, as it stands below the mail.
  address TEXT NOT NULL,
  PRIMARY KEY (enrolment_id, post_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE talk_noticed (
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id) ON DELETE CASCADE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id) ON DELETE CASCADE,
  at TEXT NOT NULL,
  PRIMARY KEY (enrolment_id, group_id)
) STRICT, WITHOUT ROWID;

-- Of which sheet a mail is, so that its instructors see what was not taken, and can send it again.
ALTER TABLE mail ADD COLUMN sheet_id INTEGER REFERENCES sheet (id) ON DELETE SET NULL;
CREATE INDEX mail_failed_of_sheet ON mail (sheet_id, id) WHERE state = 'failed';
-- What runs every few seconds, and what is swept, finds its rows without reading the rest.
CREATE INDEX mail_by_age ON mail (created_at);
CREATE INDEX mail_ending ON mail (ends_at) WHERE ends_at IS NOT NULL AND body <> '';
CREATE INDEX nudge_waiting ON nudge (id) WHERE sent_at IS NULL;
CREATE INDEX sheet_closing ON sheet (closes_at)
  WHERE closes_at IS NOT NULL AND published_at IS NOT NULL AND archived_at IS NULL AND deleted_at IS NULL
    AND (at_close <> 'leave' OR late <> 'leave');
CREATE INDEX claim_answer_by_age ON claim_answer (at);
CREATE INDEX roster_undo_by_age ON roster_undo (at);
CREATE INDEX session_by_begin ON session (created_at);
CREATE INDEX talk_noticed_by_age ON talk_noticed (at);
CREATE INDEX nudged_by_mail ON nudged (mail_id) WHERE mail_id IS NOT NULL;
CREATE INDEX seat_request_by_student ON seat_request (sheet_id, enrolment_id, id);
CREATE INDEX group_message_by_sender ON group_message (by_id, sent_at);
