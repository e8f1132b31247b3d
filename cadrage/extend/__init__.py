"""What lies beyond a picture's edges: plates, made of the clip's own pixels first, and of invented ones where there are
none.
"""
