"""What a unit is just now: on whose side, kept from what, and how much its buffs count."""
