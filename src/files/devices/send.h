#pragma once

#include "files/devices/connection.h"
#include "files/devices/send_target.h"

#include <atomic>
#include <chrono>
#include <functional>
#include <stop_token>
#include <string>
#include <string_view>

namespace hasami {

/// Called now and then, each time with more, with the first part of what is sent: that which the machine has
/// surely received. It is the whole commands in what has left this computer; a machine that keeps them in a
/// memory of its own may not have executed all of them.
using SendProgress = std::function<void(std::string_view received)>;

/// Sends HPGL, as fast as the machine takes it: a cutter reads no further while its memory is full, so there
/// is no limit of time but for connecting (10 s). One connection to a machine at a time.
///
/// While `isPaused`, nothing is sent from the end of the line under way on, with the knife lifted; the
/// machine still cuts what it has received. A stop takes effect at the end of the command under way, and
/// lifts the knife: Stopped is thrown. Where the machine takes nothing for 2 s, the stop ends all the same,
/// with an OutputError that says that the knife may be down; what is missing (the end of a command, and the
/// lift) is sent before anything else by the next connection to that machine.
///
/// Into a folder goes a whole file of that `name`, or none. `progress` was called with all that was received
/// before anything is thrown. Throws OutputError: no connection, in use, it ended too soon, no device.
void sendTo(const SendTarget& target, const std::string& name, std::string_view hpgl,
            const SendProgress& progress = {}, const std::stop_token& stop = {},
            const std::atomic<bool>* isPaused = nullptr, HostLookUp lookUp = &getaddrinfo);

/// Sends a question and gives what the machine answers, without its end of line. Throws OutputError: no
/// connection, no answer within `patience`, or a folder, which says nothing; Stopped.
///
/// A machine answers once it has done all that it was sent before.
std::string askMachine(const SendTarget& target, std::string_view question, const std::stop_token& stop = {},
                       std::chrono::seconds patience = std::chrono::seconds(5));

} // namespace hasami
