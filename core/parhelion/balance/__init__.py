"""Energy through time: sun, house, motor and bank over the steps of a timeline."""
