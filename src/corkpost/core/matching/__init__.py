"""What checks share: comparing references, names, sums and dates."""
