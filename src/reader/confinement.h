#pragma once

namespace hasami {

enum class Confinement {
    reader,  ///< may open files for reading alone, and start nothing
    program, ///< a program that is started next, which may write files as well: its own arguments say where
};

/// Takes from this process, and from what it starts, all that reading a stranger's file does not need.
/// Limits: 4 GB of memory, 60 s of processor time, 64 open files, 2 GB for a file written, no core files. A
/// seccomp filter (kernel: no network, no tracing of others, no mounting, no new namespaces, no kernel
/// modules and the like; of a reader also no other programs and no files opened for writing): a call that it
/// forbids fails with EPERM. The process ends when its parent does. False if the filter can't be set.
bool confine(Confinement confinement);

} // namespace hasami
