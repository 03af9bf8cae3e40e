"""Boats, their variants, and every variant's history. The design itself is one JSON document."""

from __future__ import annotations

import uuid

from django.db import models


class Boat(models.Model):
    """A boat; deleted ones stay until they are cleaned away, so that deleting can be undone."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    created_at = models.DateTimeField(auto_now_add=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["created_at"]

    def __str__(self) -> str:
        return str(self.id)


class Variant(models.Model):
    """One design of a boat: the one being worked on, or a kept one to compare with."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="variants")
    name = models.CharField(max_length=80)
    is_working = models.BooleanField(default=False)
    revision = models.PositiveIntegerField(default=1)
    document = models.JSONField()
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-is_working", "created_at"]
        constraints = [
            models.UniqueConstraint(
                fields=["boat"], condition=models.Q(is_working=True), name="one_working_variant"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Revision(models.Model):
    """A state a variant was in; edits that follow each other closely share one."""

    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    saved_at = models.DateTimeField()

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["variant", "number"], name="one_row_a_revision")]

    def __str__(self) -> str:
        return f"{self.variant_id} {self.number}"


class Noted(models.Model):
    """A record of the real boat: what was bought, proved, read or ticked. The content is the core's own."""

    boat = models.ForeignKey(Boat, on_delete=models.CASCADE, related_name="noted")
    key = models.CharField(max_length=40)  # its id among the boat's
    kind = models.CharField(max_length=12)
    content = models.JSONField()
    revision = models.PositiveIntegerField()  # of the working variant when it was made
    made_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["made_at", "id"]
        constraints = [models.UniqueConstraint(fields=["boat", "key"], name="one_row_a_record")]

    def __str__(self) -> str:
        return f"{self.boat_id} {self.kind} {self.key}"
