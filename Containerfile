# A base by its digest: build with --build-arg BASE=python@sha256:..., the digest that your registry shows for this tag.
ARG BASE=python:3.11.11-slim-bookworm
FROM ${BASE}
WORKDIR /opt/uranograph
COPY requirements/app.txt requirements/app.txt
RUN pip install --no-cache-dir --require-hashes -r requirements/app.txt
COPY pyproject.toml README.md LICENSE ./
COPY src src
RUN pip install --no-cache-dir --no-deps --no-build-isolation . \
    && useradd --system --home-dir /data uranograph \
    && install -d -o uranograph /data
USER uranograph
VOLUME /data
ENV URANOGRAPH_DATABASE=/data/shop.db URANOGRAPH_HOST=0.0.0.0 URANOGRAPH_PORT=8765 URANOGRAPH_TRUST_NETWORK=1 \
    PYTHONUNBUFFERED=1
EXPOSE 8765
HEALTHCHECK CMD ["python", "-c", "from os import environ; from urllib.request import urlopen; urlopen(f'http://127.0.0.1:{environ[\"URANOGRAPH_PORT\"]}{environ.get(\"URANOGRAPH_PREFIX\", \"\")}/jobs.json').close()"]
CMD ["uranograph", "serve"]
