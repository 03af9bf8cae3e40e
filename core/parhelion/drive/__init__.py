"""From the battery to thrust: motor, controller, gear and propeller."""
