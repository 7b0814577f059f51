"""Measuring devices: line protocols over a serial port, and small simulated devices.

The protocols are described in ``docs/devices.md``.
"""
