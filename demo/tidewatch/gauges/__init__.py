"""The gauges of the tide office."""

from gauges.ingest import Reading, read_file
from gauges.store import Store

__all__ = ["Reading", "Store", "read_file"]
