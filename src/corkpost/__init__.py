"""Cork Post: review, correct and sign off small clients' books."""
