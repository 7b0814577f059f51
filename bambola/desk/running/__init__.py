"""Work off the interface thread, timers, and the crash log."""
