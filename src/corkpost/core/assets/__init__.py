"""The register of fixed assets: what there is, what should be written off of it, and what stands."""
