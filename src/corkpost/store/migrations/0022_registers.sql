-- Fixed assets and what was done with them, schedules that entries carry on, and exchange rates by day.
INSERT INTO row_kinds (name) VALUES ('assets'), ('asset_moves'), ('schedules'), ('schedule_steps'), ('rates');
