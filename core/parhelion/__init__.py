"""Parhelion's core: how fast and how far a boat goes on the sun alone.

Pure computation. Nothing here reads a clock, draws an unseeded random number or talks to a network;
times, weather draws and places are arguments.
"""
