// The letters of the window as they are shipped, for text on sheets.

asm(".pushsection .rodata\n"
    ".global hasamiFontBegin\n"
    ".global hasamiFontEnd\n"
    ".balign 16\n"
    "hasamiFontBegin:\n"
    ".incbin \"" HASAMI_FONT "\"\n"
    "hasamiFontEnd:\n"
    ".byte 0\n"
    ".popsection\n");
