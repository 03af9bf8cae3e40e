"""Outings and readings of a boat: rows beside her design. What they are is the core's own."""

from __future__ import annotations

from boats.models import Boat
from django.db import models


class LogTurn(models.Model):
    """How often the logbook of a boat has changed."""

    boat = models.OneToOneField(Boat, on_delete=models.CASCADE, related_name="log_turn")
    turn = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return f"{self.boat_id} {self.turn}"


class Outing(models.Model):
    """A time on the water; the content is the core's."""

    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="outings")
    key = models.CharField(max_length=40)
    began_at = models.DateTimeField()
    content = models.JSONField()
    turn = models.PositiveIntegerField(default=0)  # how often its readings have changed
    thinned = models.JSONField(null=True, blank=True)  # many readings as pictures want them
    thinned_turn = models.PositiveIntegerField(default=0)  # of which turn
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["began_at", "id"]
        constraints = [models.UniqueConstraint(fields=["boat", "key"], name="one_row_an_outing")]

    def __str__(self) -> str:
        return f"{self.boat_id} {self.key}"


class Reading(models.Model):
    """What meters said at a moment; a column for each entry of the core's reading."""

    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="readings")
    key = models.CharField(max_length=40)
    outing_key = models.CharField(max_length=40, null=True, blank=True)
    at = models.DateTimeField()
    source = models.CharField(max_length=40)
    of = models.CharField(max_length=160, null=True, blank=True)
    sky = models.CharField(max_length=12, null=True, blank=True)
    pv_w = models.FloatField(null=True, blank=True)
    pv_v = models.FloatField(null=True, blank=True)
    pv_a = models.FloatField(null=True, blank=True)
    bank_v = models.FloatField(null=True, blank=True)
    bank_a = models.FloatField(null=True, blank=True)
    charge_frac = models.FloatField(null=True, blank=True)
    motor_w = models.FloatField(null=True, blank=True)
    house_w = models.FloatField(null=True, blank=True)
    speed_mps = models.FloatField(null=True, blank=True)
    ground_mps = models.FloatField(null=True, blank=True)
    wind_mps = models.FloatField(null=True, blank=True)
    waves_m = models.FloatField(null=True, blank=True)
    tilt_deg = models.FloatField(null=True, blank=True)
    latitude_deg = models.FloatField(null=True, blank=True)
    longitude_deg = models.FloatField(null=True, blank=True)
    left_out = models.BooleanField(default=False)
    note = models.CharField(max_length=400, blank=True, default="")

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.UniqueConstraint(fields=["boat", "key"], name="one_row_a_reading")]
        indexes = [models.Index(fields=["boat", "outing_key", "at"], name="by_outing_and_time")]

    def __str__(self) -> str:
        return f"{self.boat_id} {self.at}"


class Picture(models.Model):
    """A picture of what broke; its file lies beside the database."""

    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="pictures")
    key = models.CharField(max_length=40, unique=True)
    outing_key = models.CharField(max_length=40)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["boat", "outing_key"], name="pictures_of_an_outing")]

    def __str__(self) -> str:
        return self.key


class Device(models.Model):
    """Something that sends readings: how it speaks, where it is, and of what it reads."""

    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="devices")
    key = models.CharField(max_length=40)
    name = models.CharField(max_length=40)
    form = models.CharField(max_length=12)
    host = models.CharField(max_length=120)
    port = models.PositiveIntegerField()
    of = models.CharField(max_length=160, null=True, blank=True)
    is_on = models.BooleanField(default=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["boat", "key"], name="one_row_a_device"),
            models.UniqueConstraint(fields=["boat", "name"], name="one_device_a_name"),
        ]

    def __str__(self) -> str:
        return self.name
