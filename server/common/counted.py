"""What is counted for whoever watches; `oldspoon.metrics` tells it."""

from __future__ import annotations

from prometheus_client import Counter

READINGS = Counter("oldspoon_readings", "Readings of probes that were new.")
PICTURES = Counter("oldspoon_pictures", "Pictures of practice that were shown.")
COOKS = Counter("oldspoon_cooks_computed", "Answers that were computed in a turn of their own.")
