"""A printer that speaks the Internet Printing Protocol (RFC 8010, 8011), as far as tests need it."""
import http.server
import struct
import threading

INTEGER, BOOLEAN, ENUM, RANGE, BEGIN, END, TEXT, NAME, KEYWORD, URI, MIME, MEMBER = \
    0x21, 0x22, 0x23, 0x33, 0x34, 0x37, 0x41, 0x42, 0x44, 0x45, 0x49, 0x4a
GET_PRINTER, CREATE_JOB, SEND_DOCUMENT, CANCEL_JOB, GET_JOB = 0x000b, 0x0005, 0x0006, 0x0008, 0x0009
PROCESSING, CANCELED, ABORTED, COMPLETED = 5, 7, 8, 9


def value(tag, name, data):
    data = struct.pack(">i", data) if tag in (INTEGER, ENUM) else struct.pack(">ii", *data) if tag == RANGE else data.encode()
    return struct.pack(">BH", tag, len(name)) + name.encode() + struct.pack(">H", len(data)) + data


def sizes(media):
    """media-size-supported: of each medium its width and length in mm, or ranges of them."""
    out, name = b"", "media-size-supported"
    for width, length in media:
        out += struct.pack(">BH", BEGIN, len(name)) + name.encode() + b"\0\0"
        for member, mm in (("x-dimension", width), ("y-dimension", length)):
            out += value(MEMBER, "", member)
            out += value(RANGE, "", [100 * x for x in mm]) if isinstance(mm, tuple) else value(INTEGER, "", 100 * mm)
        out += struct.pack(">BHH", END, 0, 0)
        name = ""
    return out


def parsed(body):
    """The operation, the attributes by name (of a collection's members too), and what follows."""
    operation, at = struct.unpack(">H", body[2:4])[0], 8
    attributes, member = {}, None
    while body[at] != 3:
        if body[at] < 0x10:
            at += 1
            continue
        tag, length = struct.unpack(">BH", body[at:at + 3])
        name = body[at + 3:at + 3 + length].decode()
        at += 3 + length
        size = struct.unpack(">H", body[at:at + 2])[0]
        data = body[at + 2:at + 2 + size]
        at += 2 + size
        if tag == MEMBER:
            member = data.decode()
            continue
        key = name or member
        if tag in (INTEGER, ENUM):
            data = struct.unpack(">i", data)[0]
        if key and tag not in (BEGIN, END):
            attributes[key] = data if isinstance(data, int) else data.decode("latin-1")
    return operation, attributes, body[at + 1:]


class Printer:
    """`jobs`: attributes and document of each; `states`: what a job says of itself, one after the other."""
    def __init__(self, media, states=(PROCESSING, COMPLETED), formats=("application/pdf",), types=("stationery", "labels")):
        self.media, self.states, self.formats, self.jobs, self.cancelled = media, list(states), formats, [], []
        self.types = types
        self.silent, self.closed = set(), threading.Event()  # operations that it does not answer, until it closes
        printer = self

        class Handler(http.server.BaseHTTPRequestHandler):
            protocol_version = "HTTP/1.1"

            def log_message(self, *_):
                pass

            def body(self):
                if self.headers.get("Transfer-Encoding") != "chunked":
                    return self.rfile.read(int(self.headers["Content-Length"]))
                out = b""
                while size := int(self.rfile.readline(), 16):
                    out += self.rfile.read(size)
                    self.rfile.readline()
                self.rfile.readline()
                return out

            def do_POST(self):
                answer = printer.answer(self.body())
                self.send_response(200)
                self.send_header("Content-Type", "application/ipp")
                self.send_header("Content-Length", str(len(answer)))
                self.end_headers()
                self.wfile.write(answer)

        self.server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.uri = f"ipp://127.0.0.1:{self.server.server_address[1]}/ipp/print"
        threading.Thread(target=self.server.serve_forever, daemon=True).start()

    def close(self):
        self.closed.set()
        self.server.shutdown()
        self.server.server_close()

    def answer(self, body):
        operation, attributes, document = parsed(body)
        more = b""
        if operation == GET_PRINTER:
            names = ["document-format-supported"] + [""] * (len(self.formats) - 1)
            more = b"\x04" + b"".join(value(MIME, name, form) for name, form in zip(names, self.formats)) + \
                b"".join(value(KEYWORD, "" if i else "media-type-supported", t) for i, t in enumerate(self.types)) + sizes(self.media)
        elif operation == CREATE_JOB:
            self.jobs.append({"attributes": attributes, "document": b""})
            more = b"\x02" + value(INTEGER, "job-id", len(self.jobs)) + value(ENUM, "job-state", 4)
        elif operation == SEND_DOCUMENT:
            self.jobs[attributes["job-id"] - 1]["document"] = document
            more = b"\x02" + value(INTEGER, "job-id", attributes["job-id"]) + value(ENUM, "job-state", 3)
        elif operation == GET_JOB:
            state = self.states.pop(0) if len(self.states) > 1 else self.states[0]
            more = b"\x02" + value(ENUM, "job-state", state) + value(KEYWORD, "job-state-reasons", "media-jam")
        elif operation == CANCEL_JOB:
            self.cancelled.append(attributes["job-id"])
        if operation in self.silent:
            self.closed.wait(60)
        head = b"\x02\0\0\0" + body[4:8] + b"\x01" + value(0x47, "attributes-charset", "utf-8") + \
            value(0x48, "attributes-natural-language", "en")
        return head + more + b"\x03"
