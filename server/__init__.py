"""The server: accounts, projects, footage, framings, renders. It asks the core; it does no pixel arithmetic."""
