"""The window with the largest demo open: print the most memory it took, MB."""

from __future__ import annotations

from benchmarks.window import memory_mb, new_window, wait, wait_until_idle


def main() -> None:
    """Open the demo, wait for its pictures, and print."""
    window = new_window()
    window.open_demo()
    window.show()
    while not window.resize_station.table.is_pictured:
        wait(50)
    wait_until_idle(window)
    print(memory_mb("VmHWM"))
    window.close()


if __name__ == "__main__":
    main()
