"""What every path is held to, whatever it was made for: off the part, off what holds it, off stock that stands."""
