"""Results: what every answer of the library has in common, and how its tables are written."""

from .result import Result
from .written import check_table_path, table_bytes, write_records

__all__ = ["Result", "check_table_path", "table_bytes", "write_records"]
