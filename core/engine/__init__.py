"""The engine as a thing: where its cylinders sit, who sits beside whom, who shares what."""
