"""Speed, as ratios within one run. `make bench` runs all and writes docs/performance.md.

work      one measured piece of work in a process of its own
runs      repeating pieces of work and taking medians
previews  how soon a frame is seen
report    the page of results
"""
