#pragma once

#include <filesystem>
#include <optional>
#include <utility>

namespace hasami {

/// A file that one process, of all on this machine, has locked; it is free again when the process ends,
/// however that happens.
class EntryLock {
public:
    /// Nothing where another one has it, in this process too. Throws OutputError where the file can't be
    /// made.
    static std::optional<EntryLock> tryTake(const std::filesystem::path& file);
    /// Whether somebody has it. Takes nothing, and makes no file.
    static bool isTaken(const std::filesystem::path& file);

    ~EntryLock();
    EntryLock(EntryLock&& other) noexcept : handle_(std::exchange(other.handle_, -1)) {}
    EntryLock& operator=(EntryLock&& other) noexcept {
        std::swap(handle_, other.handle_);
        return *this;
    }
    EntryLock(const EntryLock&) = delete;
    EntryLock& operator=(const EntryLock&) = delete;

    /// Removes the file, for what it stands for is gone. REQUIRES: it is this one's.
    void removeFile(const std::filesystem::path& file);

private:
    explicit EntryLock(int handle) : handle_(handle) {}
    int handle_;
};

} // namespace hasami
