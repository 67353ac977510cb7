// What every stand-in of the system's own calls needs: which files it concerns, and the calls themselves.
#pragma once
#define _GNU_SOURCE
#include <dlfcn.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/syscall.h>
#include <sys/types.h>
#include <unistd.h>

#define SYSTEM(name) ((__typeof__(name) *)dlsym(RTLD_NEXT, #name))

// Whether a path lies in DRAWER_DISK_FOLDER.
static int path_lies_within(const char *path) {
	const char *folder = getenv("DRAWER_DISK_FOLDER");
	size_t length = folder ? strlen(folder) : 0;
	return folder && strncmp(path, folder, length) == 0 && path[length] == '/';
}

// The same of an open file; its path is left in `path`.
static int lies_within(int fd, char path[4096]) {
	char link[64];
	snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
	ssize_t length = readlink(link, path, 4095);
	if (length < 0) return 0;
	path[length] = 0;
	return path_lies_within(path);
}

// Some callers copy inside the system without the library's name for it.
#define COPIES_INSIDE(number, body) \
	long syscall(long number, ...) { \
		va_list rest; \
		long of[6]; \
		va_start(rest, number); \
		for (int i = 0; i < 6; i++) of[i] = va_arg(rest, long); \
		va_end(rest); \
		if (number == SYS_copy_file_range) body; \
		return SYSTEM(syscall)(number, of[0], of[1], of[2], of[3], of[4], of[5]); \
	}
