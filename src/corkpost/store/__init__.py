"""All SQL there is, one module per area: rows in, core values out, and back."""
