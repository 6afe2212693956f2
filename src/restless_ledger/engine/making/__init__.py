"""Make the compiled programs."""
