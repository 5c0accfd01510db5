"""HTTP, one module per area: parse, permit, call one service, answer."""
