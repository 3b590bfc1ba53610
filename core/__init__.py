"""The trade: what an engine's cylinders tell, as pure computation.

No web, no database, no clock, and no files but the knowledge tables that ship inside.
"""
