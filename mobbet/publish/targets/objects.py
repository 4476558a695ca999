"""An object store that speaks S3 as a place to send to: `s3://BUCKET/PREFIX?endpoint=…&region=…`.

Whose it is comes from where the client of every such store looks: AWS_ACCESS_KEY_ID and AWS_SECRET_ACCESS_KEY, or a profile.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor, as_completed
from typing import Any
from urllib.parse import parse_qs, urlsplit

import boto3
from botocore.config import Config
from botocore.exceptions import BotoCoreError, ClientError

from mobbet.core.errors import Broken
from mobbet.publish.targets.host import File

AT_ONCE = 8
REMOVE_AT_ONCE = 1000


class ObjectStore:
    """A bucket, or what lies below a prefix in one. Addresses that lead on are told in the store's own way as well as by their page."""

    def __init__(self, address: str) -> None:
        parts = urlsplit(address)
        asked = {name: values[0] for name, values in parse_qs(parts.query).items()}
        self._bucket, self._prefix = parts.hostname, f"{parts.path.strip('/')}/" if parts.path.strip("/") else ""
        config = Config(connect_timeout=10, read_timeout=30, retries={"max_attempts": 2, "mode": "standard"}, max_pool_connections=AT_ONCE)
        try:
            self._client = boto3.client("s3", endpoint_url=asked.get("endpoint"), region_name=asked.get("region"), config=config)
        except (BotoCoreError, ValueError) as error:
            raise Broken(f"The store of {self._bucket} cannot be reached ({error}).") from None

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
        self._try(lambda: self._client.put_object(Bucket=self._bucket, Key=self._prefix + file.name, Body=file.read(), ContentType=file.type, CacheControl=file.keep, **more))

    def remove(self, names: Iterable[str]) -> None:
        keys = [{"Key": self._prefix + name} for name in names]
        for at in range(0, len(keys), REMOVE_AT_ONCE):
            self._try(lambda at=at: self._client.delete_objects(Bucket=self._bucket, Delete={"Objects": keys[at : at + REMOVE_AT_ONCE], "Quiet": True}))

    def fingerprints(self) -> dict[str, str]:
        def look() -> dict[str, str]:
            pages = self._client.get_paginator("list_objects_v2").paginate(Bucket=self._bucket, Prefix=self._prefix)
            return {one["Key"][len(self._prefix) :]: one["ETag"].strip('"') for page in pages for one in page.get("Contents", ())}

        return self._try(look)

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
            raise Broken(f"The store of {self._bucket} did not take it ({error}).") from None
