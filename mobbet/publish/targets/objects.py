"""An object store that speaks S3 as a place to send to: `s3://BUCKET/PREFIX?endpoint=…&region=…`, with the access key and secret that its owner gave."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor, as_completed
from functools import partial
from typing import Any

from botocore.exceptions import BotoCoreError, ClientError

from mobbet.core.errors import Broken, Refused
from mobbet.core.places_outside import Credentials, Place, endpoint_of
from mobbet.publish.targets.host import File
from mobbet.services.connecting import object_store

AT_ONCE = 8
REMOVE_AT_ONCE = 1000


class ObjectStore:
    """A bucket, or what lies below a prefix in one. Addresses that lead on are told in the store's own way as well as by their page."""

    def __init__(self, place: Place, credentials: Credentials) -> None:
        """Raises Refused without credentials; those of the machine are never used."""
        if not credentials.access or not credentials.secret:
            raise Refused(f"The store of {place.host} asks for an access key and its secret; type both.")
        self._bucket, self._prefix = place.host, f"{place.path}/" if place.path else ""
        self._client = object_store(
            endpoint_of(place), place.region, credentials.access, credentials.secret, AT_ONCE
        )

    def put(self, files: Iterable[File], done: Callable[[File], None]) -> None:
        with ThreadPoolExecutor(AT_ONCE) as pool:
            waiting = {pool.submit(self._put, file): file for file in files}
            try:
                for one in as_completed(waiting):
                    one.result()
                    done(waiting[one])
            except BaseException:
                pool.shutdown(wait=True, cancel_futures=True)
                raise

    def _put(self, file: File) -> None:
        more = {"WebsiteRedirectLocation": file.leads_to} if file.leads_to else {}
        self._try(
            lambda: self._client.put_object(
                Bucket=self._bucket,
                Key=self._prefix + file.name,
                Body=file.read(),
                ContentType=file.type,
                CacheControl=file.keep,
                **more,
            )
        )

    def remove(self, names: Iterable[str]) -> None:
        keys = [{"Key": self._prefix + name} for name in names]
        for at in range(0, len(keys), REMOVE_AT_ONCE):
            some = {"Objects": keys[at : at + REMOVE_AT_ONCE], "Quiet": True}
            self._try(partial(self._client.delete_objects, Bucket=self._bucket, Delete=some))

    def fingerprints(self) -> dict[str, str]:
        return self._look("")

    def names(self, below: str) -> set[str]:
        return set(self._look(f"{below}/"))

    def _look(self, below: str) -> dict[str, str]:
        """{name: fingerprint} of what lies below a prefix."""

        def look() -> dict[str, str]:
            pages = self._client.get_paginator("list_objects_v2").paginate(
                Bucket=self._bucket, Prefix=self._prefix + below
            )
            return {
                one["Key"][len(self._prefix) :]: one["ETag"].strip('"')
                for page in pages
                for one in page.get("Contents", ())
            }

        found: dict[str, str] = self._try(look)
        return found

    def read(self, name: str) -> bytes | None:
        def get() -> bytes | None:
            try:
                body: bytes = self._client.get_object(Bucket=self._bucket, Key=self._prefix + name)[
                    "Body"
                ].read()
            except self._client.exceptions.NoSuchKey:
                return None
            return body

        found: bytes | None = self._try(get)
        return found

    def settle(self) -> None:
        pass

    def fingerprint(self, body: bytes) -> str:
        """The ETag of an object that was sent in one piece is its MD5."""
        return hashlib.md5(body, usedforsecurity=False).hexdigest()

    def finish(self, names: Iterable[str]) -> None:
        pass

    def close(self) -> None:
        self._client.close()

    def _try(self, work: Callable[[], Any]) -> Any:
        try:
            return work()
        except (BotoCoreError, ClientError, OSError) as error:
            raise Broken(f"The store of {self._bucket} did not take it ({_why(error)}).") from None


def _why(error: Exception) -> str:
    """The reason in the store's own code, without anything that it sent."""
    code = error.response.get("Error", {}).get("Code", "") if isinstance(error, ClientError) else ""
    return code if re.fullmatch(r"[A-Za-z0-9]{1,60}", code) else type(error).__name__
