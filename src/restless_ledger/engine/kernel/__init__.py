"""The rules of combat, one a file. This is the only place where they are carried out."""
