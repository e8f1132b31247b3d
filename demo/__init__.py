"""The Brackwater Tramway Museum, an invented museum with invented trams: its footage is drawn here by our own code."""
