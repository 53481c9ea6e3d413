-- What the roster says of a person's name in two parts, what they are called where that is another name, and their
-- student number; each empty where nothing was said. Staff alone see the parts and the number.
ALTER TABLE enrolment ADD COLUMN given TEXT NOT NULL DEFAULT '';
ALTER TABLE enrolment ADD COLUMN family TEXT NOT NULL DEFAULT '';
ALTER TABLE enrolment ADD COLUMN called TEXT NOT NULL DEFAULT '';
ALTER TABLE enrolment ADD COLUMN number TEXT NOT NULL DEFAULT '';
CREATE INDEX enrolment_by_number ON enrolment (course_id, number) WHERE number <> '';
