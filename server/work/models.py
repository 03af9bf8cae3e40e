"""Long work as rows: what is asked, how far it is, what came of it. Equal questions share one row."""

from __future__ import annotations

import uuid

from django.db import models


class Work(models.Model):
    """One piece of long work. `boot_id` is the program's start that is at it: another's is interrupted."""

    class Status(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        CANCELLED = "cancelled"
        FAILED = "failed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kind = models.CharField(max_length=20)
    content_hash = models.CharField(max_length=64, unique=True)
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    progress = models.FloatField(default=0)
    result = models.JSONField(null=True, blank=True)
    problem = models.TextField(blank=True, default="")
    boot_id = models.UUIDField()
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed_at"]

    def __str__(self) -> str:
        return f"{self.kind} {self.status}"
