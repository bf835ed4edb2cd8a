#pragma once

/// Runs a program's tests as its arguments say, and gives the code to exit with. Catch's own code, which
/// takes a minute to compile, is in here once.
int runTests(int argc, char** argv);
