"""Light that one makes: lamps and what they give, added, turned backwards, and seen on a sitter or a table."""
