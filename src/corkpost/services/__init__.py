"""The use cases, one module per area: load, ask the core, write in one transaction.

The pages, the command line and the demo all go through here, so that nothing can be done one way and
not the other, and a right or a refusal holds whatever way leads there.
"""
