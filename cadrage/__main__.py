"""`python -m cadrage`."""

from cadrage.cli import main

main()
