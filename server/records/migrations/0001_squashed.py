"""The tables of records, made from nothing; a database that went through all that this replaces is taken as it is."""

from django.db import migrations, models


HASH = """
CREATE FUNCTION records_hash(
    before bytea, chain text, number bigint, kind text, shape integer, keys text, digest bytea
) RETURNS bytea LANGUAGE sql IMMUTABLE AS $$
    SELECT sha256(before || convert_to(concat_ws('|', chain, number, kind, shape, keys), 'UTF8') || digest)
$$;
"""
ADD = """
CREATE FUNCTION records_add(in_chain text, of_kind text, of_shape integer, of_keys text, content text)
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

    replaces = [('records', '0001_initial')]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Chain',
            fields=[
                ('name', models.CharField(max_length=40, primary_key=True, serialize=False)),
                ('number', models.BigIntegerField()),
                ('hash', models.BinaryField()),
            ],
        ),
        migrations.CreateModel(
            name='Entry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('chain', models.CharField(max_length=40)),
                ('number', models.BigIntegerField()),
                ('kind', models.CharField(max_length=20)),
                ('shape', models.PositiveSmallIntegerField()),
                ('keys', models.TextField()),
                ('digest', models.BinaryField()),
                ('hash', models.BinaryField()),
                ('at', models.DateTimeField()),
            ],
            options={
                'indexes': [models.Index(fields=['kind', 'chain'], name='entries_of_a_kind')],
                'constraints': [models.UniqueConstraint(fields=('chain', 'number'), name='entry_once')],
            },
        ),
        migrations.RunSQL(HASH),
        migrations.RunSQL(ADD),
    ]
