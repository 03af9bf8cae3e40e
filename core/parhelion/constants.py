"""Physical constants, each with its unit and source."""

GRAVITY_MPS2 = 9.81  # [m/s2] as used by the resistance regressions
AIR_DENSITY_KG_PER_M3 = 1.225  # [kg/m3] ISA at sea level, 15 C

# Water at 15 C: density [kg/m3] and kinematic viscosity [m2/s], ITTC 7.5-02-01-03
SEA_DENSITY_KG_PER_M3 = 1025.0
SEA_VISCOSITY_M2_PER_S = 1.18831e-6
FRESH_DENSITY_KG_PER_M3 = 999.1
FRESH_VISCOSITY_M2_PER_S = 1.139e-6

SHOCK_V = 60.0  # [V] direct volts above which the usual cautions are shown

STEP_S = 600  # [s] one step of the day: hourly means overstate what survives a clip
STEPS_PER_DAY = 144
STEP_H = STEP_S / 3600.0
