#include "reader/confinement.h"

#include <array>
#include <cerrno>
#include <csignal>
#include <fcntl.h>
#include <memory>
#include <seccomp.h>
#include <sys/prctl.h>
#include <sys/resource.h>

namespace hasami {

namespace {

void limit(__rlimit_resource what, rlim_t most) {
    const rlimit limits{most, most};
    setrlimit(what, &limits);
}

void setLimits() {
#ifndef HASAMI_SANITIZED
    limit(RLIMIT_AS, rlim_t{4} << 30); // the address sanitizer takes terabytes of addresses
#endif
    limit(RLIMIT_CPU, 60);
    limit(RLIMIT_NOFILE, 64);
    limit(RLIMIT_FSIZE, rlim_t{2} << 30); // the largest picture with 16 bits of each colour takes 1.2 GB
    limit(RLIMIT_CORE, 0);
}

struct Release {
    void operator()(void* filter) const { seccomp_release(filter); }
};

/// All of it is allowed but what is named here: libraries' needs change with their versions, what a
/// stranger's file never needs does not.
class Filter {
public:
    Filter() : filter_(seccomp_init(SCMP_ACT_ALLOW)) {}

    template <std::size_t count>
    void forbid(const std::array<int, count>& calls) {
        for (const int call : calls)
            add(seccomp_rule_add(filter_.get(), forbidden, call, 0));
    }

    /// Calls whose flags, the argument of that number, ask for writing or making a file.
    void forbidWriting(int call, unsigned argument) {
        for (const int flag : {O_WRONLY, O_RDWR, O_CREAT, O_TRUNC, O_APPEND}) {
            const scmp_arg_cmp asks{argument, SCMP_CMP_MASKED_EQ, scmp_datum_t(flag), scmp_datum_t(flag)};
            add(seccomp_rule_add_array(filter_.get(), forbidden, call, 1, &asks));
        }
    }

    bool load() { return filter_ && isWhole_ && seccomp_load(filter_.get()) == 0; }

private:
    static constexpr std::uint32_t forbidden = SCMP_ACT_ERRNO(EPERM);

    void add(int result) { isWhole_ &= result == 0; }

    std::unique_ptr<void, Release> filter_;
    bool isWhole_ = true;
};

constexpr std::array network{SCMP_SYS(socket),  SCMP_SYS(socketpair), SCMP_SYS(connect), SCMP_SYS(bind),
                             SCMP_SYS(listen),  SCMP_SYS(accept),     SCMP_SYS(accept4), SCMP_SYS(sendto),
                             SCMP_SYS(sendmsg), SCMP_SYS(sendmmsg)};

constexpr std::array others{SCMP_SYS(ptrace),
                            SCMP_SYS(process_vm_readv),
                            SCMP_SYS(process_vm_writev),
                            SCMP_SYS(mount),
                            SCMP_SYS(umount2),
                            SCMP_SYS(pivot_root),
                            SCMP_SYS(chroot),
                            SCMP_SYS(unshare),
                            SCMP_SYS(setns),
                            SCMP_SYS(bpf),
                            SCMP_SYS(perf_event_open),
                            SCMP_SYS(userfaultfd),
                            SCMP_SYS(keyctl),
                            SCMP_SYS(add_key),
                            SCMP_SYS(request_key),
                            SCMP_SYS(init_module),
                            SCMP_SYS(finit_module),
                            SCMP_SYS(delete_module),
                            SCMP_SYS(kexec_load),
                            SCMP_SYS(reboot),
                            SCMP_SYS(swapon),
                            SCMP_SYS(io_uring_setup), // would go round the filter
                            SCMP_SYS(open_by_handle_at)};

constexpr std::array changes{SCMP_SYS(execve),    SCMP_SYS(execveat),  SCMP_SYS(fork),     SCMP_SYS(vfork),
                             SCMP_SYS(creat),     SCMP_SYS(unlink),    SCMP_SYS(unlinkat), SCMP_SYS(rename),
                             SCMP_SYS(renameat),  SCMP_SYS(renameat2), SCMP_SYS(mkdir),    SCMP_SYS(mkdirat),
                             SCMP_SYS(rmdir),     SCMP_SYS(link),      SCMP_SYS(linkat),   SCMP_SYS(symlink),
                             SCMP_SYS(symlinkat), SCMP_SYS(chmod),     SCMP_SYS(fchmodat), SCMP_SYS(chown),
                             SCMP_SYS(fchownat),  SCMP_SYS(truncate),  SCMP_SYS(openat2),  SCMP_SYS(kill)};

} // namespace

bool confine(Confinement confinement) {
    setLimits();
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0);
    Filter filter;
    filter.forbid(network);
    filter.forbid(others);
    if (confinement == Confinement::reader) {
        filter.forbid(changes);
        filter.forbidWriting(SCMP_SYS(open), 1);
        filter.forbidWriting(SCMP_SYS(openat), 2);
    }
    return filter.load();
}

} // namespace hasami
