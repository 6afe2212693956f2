"""Native: the compiled programs of the kernel, how they are made, found and loaded."""
