"""The documents, and the maker of their pictures."""
