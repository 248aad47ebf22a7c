"""Small simulated stand-ins for what a shop has outside of this program. They import core and library only."""
