"""Which days reports cover, when they are made, and the templates that ship."""
