-- A job that was given up says nothing: nobody was left to say it.
UPDATE job SET problem = NULL WHERE problem ->> 'code' = 'given_up';
