"""Routes of the photos of a job's parts."""

from datetime import datetime
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import File, Form, Router, Schema, UploadedFile

from cradle.jobs.models import Job, PartPhoto
from cradle.jobs.routes import job_of
from cradle.pictures import as_jpeg, require_no_larger, small
from layup.errors import Missing, OutOfRange

router = Router(tags=["photos"])
MOST_OF_A_JOB = 200


class PartPhotoIn(Schema):
    """A photo's own id, made where it was taken, and the part it shows."""

    id: UUID
    part_id: str


class PartPhotoOut(Schema):
    id: UUID
    part_id: str
    by: str
    at: datetime


def _of(job: Job) -> list[PartPhotoOut]:
    photos = job.part_photos.select_related("by").defer("content")
    return [PartPhotoOut(id=each.pk, part_id=each.part_id, by=each.by.get_username(), at=each.at) for each in photos]


@router.get("/jobs/{uuid:job_id}/photos", response=list[PartPhotoOut])
def list_part_photos(request: HttpRequest, job_id: UUID):
    return _of(job_of(request, job_id))


@router.post("/jobs/{uuid:job_id}/photos", response=list[PartPhotoOut])
def add_part_photo(request: HttpRequest, job_id: UUID, sent: Form[PartPhotoIn], photo: UploadedFile = File(...)):  # noqa: B008
    """A photo of a part, of any size a phone takes; sent twice it is kept once. Answers all of the job."""
    job = job_of(request, job_id, to_write=True)
    if job.part_photos.filter(pk=sent.id).exists():
        return _of(job)
    require_no_larger(photo.size)
    if sent.part_id not in {part.id for part in job.latest().spec().parts}:
        raise Missing("is on no part that is saved: save the job, then send the photo again", "photo")
    if job.part_photos.count() >= MOST_OF_A_JOB:
        raise OutOfRange(f"a job keeps {MOST_OF_A_JOB} photos: remove some first", "photo")
    content, _ = small(photo.read())
    _, made = PartPhoto.objects.get_or_create(
        pk=sent.id, defaults={"job": job, "part_id": sent.part_id, "content": content, "by": request.user}
    )
    if not made:
        raise OutOfRange("was sent twice at once: look whether it is there", "photo")
    return _of(job)


@router.get("/jobs/{uuid:job_id}/photos/{uuid:photo_id}", response=str)
def read_part_photo(request: HttpRequest, job_id: UUID, photo_id: UUID):
    """A photo, as a JPEG."""
    return as_jpeg(get_object_or_404(job_of(request, job_id).part_photos, pk=photo_id).content)


@router.delete("/jobs/{uuid:job_id}/photos/{uuid:photo_id}", response=list[PartPhotoOut])
def remove_part_photo(request: HttpRequest, job_id: UUID, photo_id: UUID):
    job = job_of(request, job_id, to_write=True)
    get_object_or_404(job.part_photos, pk=photo_id).delete()
    return _of(job)
