"""The command line: thin commands over the library."""
