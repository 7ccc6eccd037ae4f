"""The bucket of a job: its lines by hand, what the crew says of it, how it is loaded, ticked and handed out."""

from iron_bucket.desk.bucket.lines import put_in, set_purpose, set_quantity, take_out
from iron_bucket.desk.bucket.view import BucketView, bucket_view, open_bucket

__all__ = ["BucketView", "bucket_view", "open_bucket", "put_in", "set_purpose", "set_quantity", "take_out"]
