"""Making: how the compiled programs are made, and what they practise on."""
