-- Whoever leaves a group lets an extra seat of it become an ordinary one. Hardly any group has one, and to see that, all its
-- seats were read at each move.
CREATE INDEX extra_seat_by_group ON seat (group_id) WHERE extra = 1;
