"""Readings of batches long closed are thinned by a function of the owner's: what serves may not delete any."""

from django.db import migrations

MAKE = """
CREATE FUNCTION stove_thin_readings(today timestamptz) RETURNS bigint
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    WITH gone AS (
        DELETE FROM devices_reading reading
        USING stove_probeuse lay
        JOIN stove_batch batch ON batch.id = lay.batch_id
        JOIN kitchen_kitchen kitchen ON kitchen.id = batch.kitchen_id
        WHERE batch.closed_at < today - kitchen.readings_days * interval '1 day'
        AND reading.device_id = lay.device_id
        AND reading.at >= lay.since AND reading.at < coalesce(lay.until, batch.closed_at)
        AND EXISTS (
            SELECT FROM devices_reading earlier WHERE earlier.device_id = reading.device_id
            AND earlier.at >= date_trunc('minute', reading.at) AND earlier.at < reading.at)
        RETURNING 1)
    SELECT count(*) FROM gone
$$;
"""


class Migration(migrations.Migration):
    """One function."""

    dependencies = [
        ("stove", "0007_live_state"),
        ("devices", "0004_device_clock_ahead_s_device_rotated_at_and_more"),
        ("kitchen", "0006_kitchen_readings_days"),
    ]
    operations = [migrations.RunSQL(MAKE, "DROP FUNCTION stove_thin_readings")]
