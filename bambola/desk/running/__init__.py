"""Work off the interface thread, timers, and what goes wrong: nothing is stranded."""
