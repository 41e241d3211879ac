"""The end of a chain is written once a transaction, not once a record.

Each record read the end of its chain and wrote it anew. Within one transaction PostgreSQL keeps every version of that
row, and the next to read it goes through them all: twenty thousand records at once, as a brought-in kitchen is,
took minutes. Now a record follows from the newest record, and the end is written when all of them are there.
"""

from django.db import migrations

ADD = """
CREATE OR REPLACE FUNCTION records_add(in_chain text, of_kind text, of_shape integer, of_keys text, content text)
RETURNS bigint LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    last records_chain;
    newest record;
    sum bytea := sha256(convert_to(content, 'UTF8'));
    place bigint;
    own bytea;
BEGIN
    INSERT INTO records_chain (name, number, hash) VALUES (in_chain, 0, '') ON CONFLICT DO NOTHING;
    SELECT * INTO last FROM records_chain WHERE name = in_chain FOR UPDATE;
    SELECT entry.number, entry.hash INTO newest FROM records_entry entry
    WHERE entry.chain = in_chain ORDER BY entry.number DESC LIMIT 1;
    -- Only what this transaction added lies beyond the end. Where records were cut off, the end is gone by, and shows it.
    IF newest.number > last.number THEN
        last.number := newest.number;
        last.hash := newest.hash;
    END IF;
    place := last.number + 1;
    own := records_hash(last.hash, in_chain, place, of_kind, of_shape, of_keys, sum);
    INSERT INTO records_entry (chain, number, kind, shape, keys, digest, hash, at)
    VALUES (in_chain, place, of_kind, of_shape, of_keys, sum, own, clock_timestamp());
    RETURN place;
END
$$;
CREATE FUNCTION records_end() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
    IF NEW.number = (SELECT max(number) FROM records_entry WHERE chain = NEW.chain) THEN
        UPDATE records_chain SET number = NEW.number, hash = NEW.hash WHERE name = NEW.chain;
    END IF;
    RETURN NULL;
END
$$;
CREATE CONSTRAINT TRIGGER the_end AFTER INSERT ON records_entry
DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION records_end();
"""
AS_IT_WAS = """
DROP TRIGGER the_end ON records_entry;
DROP FUNCTION records_end();
CREATE OR REPLACE FUNCTION records_add(in_chain text, of_kind text, of_shape integer, of_keys text, content text)
RETURNS bigint LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    last records_chain;
    sum bytea := sha256(convert_to(content, 'UTF8'));
    place bigint;
    own bytea;
BEGIN
    INSERT INTO records_chain (name, number, hash) VALUES (in_chain, 0, '') ON CONFLICT DO NOTHING;
    SELECT * INTO last FROM records_chain WHERE name = in_chain FOR UPDATE;
    place := last.number + 1;
    own := records_hash(last.hash, in_chain, place, of_kind, of_shape, of_keys, sum);
    INSERT INTO records_entry (chain, number, kind, shape, keys, digest, hash, at)
    VALUES (in_chain, place, of_kind, of_shape, of_keys, sum, own, clock_timestamp());
    UPDATE records_chain SET number = place, hash = own WHERE name = in_chain;
    RETURN place;
END
$$;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0001_squashed'),
    ]

    operations = [
        migrations.RunSQL(ADD, AS_IT_WAS),
    ]
