-- Tries to sign in, counted before a password is looked at: by account and by client, whichever
-- server was asked. Those that succeed are taken out again.
DROP TABLE sign_in_failure;
CREATE TABLE sign_in_try (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    email text NOT NULL,
    client text NOT NULL,
    -- The device, when it is one from which that person signed in before.
    device bytea,
    at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sign_in_try_email ON sign_in_try (email, at);
CREATE INDEX sign_in_try_client ON sign_in_try (client, at);

-- Devices from which a person signed in, by the hash of what they show; so that whoever guesses at
-- somebody's password does not lock them out of their own.
CREATE TABLE known_device (
    hash bytea PRIMARY KEY,
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    seen_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX known_device_person ON known_device (person_id);
