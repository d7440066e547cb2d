"""What pages read of pictures."""

from dimgrey.pictures.models import Picture, folder_path


def folder_of(person, folder):
    """Path of the folder of one of a person's pictures, or None; 1 query, no model. folder: its UUID."""
    found = Picture.objects.owned_by(person).filter(folder=folder).exists()
    return folder_path(folder) if found else None
