"""PDF, SVG and PostScript files made here, byte by byte, so that each test knows what is in them."""


def pdf(content, resources="", box=(0, 0, 200, 150), objects=(), page=""):
    """A PDF file of one page, or, of a list of contents, of one page each. `objects` are 5, 6, …"""
    contents = content if isinstance(content, list) else [content]

    def page_of(number):
        return f"<< /Type /Page /Parent 2 0 R /MediaBox [{' '.join(map(str, box))}] " \
               f"/Resources << {resources} >> /Contents {number} 0 R {page} >>"
    behind = 5 + len(objects)
    more = [body for i, c in enumerate(contents[1:]) for body in (page_of(behind + 2 * i + 1), stream(c))]
    kids = " ".join(f"{n} 0 R" for n in [3] + [behind + 2 * i for i in range(len(contents) - 1)])
    return joined(["<< /Type /Catalog /Pages 2 0 R >>", f"<< /Type /Pages /Kids [{kids}] /Count {len(contents)} >>",
                   page_of(4), stream(contents[0]), *objects, *more])


def joined(bodies):
    out, offsets = b"%PDF-1.6\n", []
    for number, body in enumerate(bodies, 1):
        offsets.append(len(out))
        body = body.encode() if isinstance(body, str) else body
        out += b"%d 0 obj\n" % number + body + b"\nendobj\n"
    table = b"xref\n0 %d\n0000000000 65535 f \n" % (len(bodies) + 1)
    table += b"".join(b"%010d 00000 n \n" % offset for offset in offsets)
    return out + table + f"trailer << /Size {len(bodies) + 1} /Root 1 0 R >>\n".encode() + \
        b"startxref\n%d\n%%%%EOF\n" % len(out)


def stream(content, about=""):
    content = content.encode() if isinstance(content, str) else content
    return f"<< /Length {len(content)} {about} >>\nstream\n".encode() + content + b"\nendstream"


def spots(**names):
    """A /ColorSpace resource of Separations: key and spot colour's name (escaped as PDF asks)."""
    return "/ColorSpace << " + " ".join(
        f"/{key} [/Separation /{name} /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] "
        f"/C1 [0 1 0 0] /N 1 >>]" for key, name in names.items()) + " >>"


def svg(body, width="60mm", height="40mm", box="0 0 60 40", more=""):
    return f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="{width}" ' \
           f'height="{height}" viewBox="{box}" {more}>{body}</svg>'.encode()


def eps(body, width, height):
    standard = "A" + "dobe-3.0 EPSF-3.0"  # the name that its own standard gives the format
    return f"%!PS-{standard}\n%%BoundingBox: 0 0 {int(width) + 1} {int(height) + 1}\n" \
           f"%%HiResBoundingBox: 0 0 {width} {height}\n%%EndComments\n{body}\nshowpage\n%%EOF\n".encode()
