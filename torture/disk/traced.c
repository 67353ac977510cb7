// A disk that notes in which order it was written to, and when that was waited for: what a power cut would leave of it
// is worked out from there (power-cut.ts).
//
// DRAWER_DISK_FOLDER  what lies in it is noted
// DRAWER_DISK_TRACE   the file that it is noted in
//
// A record is a line, "KIND NUMBER LENGTH PATH", and LENGTH bytes. Kinds: W bytes at an offset, T cut or grown to a
// size, S waited for, O made, R renamed (the bytes are the new path), U removed, A said on standard output.
#include "within.h"
#include <errno.h>
#include <fcntl.h>
#include <pthread.h>
#include <sys/sendfile.h>
#include <sys/stat.h>
#include <sys/uio.h>

static pthread_mutex_t lock = PTHREAD_MUTEX_INITIALIZER;
static int trace = -1;

static void note(char kind, long number, const void *bytes, size_t length, const char *path) {
	char head[4200];
	const char *name = getenv("DRAWER_DISK_TRACE");
	if (!name) return;
	if (trace < 0) trace = SYSTEM(open)(name, O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
	int size = snprintf(head, sizeof head, "%c %ld %zu %s\n", kind, number, length, path);
	struct iovec both[2] = {{head, (size_t)size}, {(void *)bytes, length}};
	if (SYSTEM(writev)(trace, both, 2) != (ssize_t)(size + length)) abort();
}

// What is in memory for all processes to see is made anew after a cut.
static int concerns(int fd, char path[4096]) {
	if (!lies_within(fd, path)) return 0;
	size_t length = strlen(path);
	return length < 4 || strcmp(path + length - 4, "-shm") != 0;
}

// `call` gives how many bytes were written, `at` where they begin.
#define NOTED_WRITE(fd, from, call, at) \
	do { \
		char path[4096]; \
		int said = (fd) == 1, noted = said || concerns(fd, path); \
		if (!noted) return call; \
		pthread_mutex_lock(&lock); \
		ssize_t written = call; \
		int error = errno; \
		if (written > 0) note(said ? 'A' : 'W', said ? 0 : (long)(at), from, (size_t)written, said ? "-" : path); \
		pthread_mutex_unlock(&lock); \
		errno = error; \
		return written; \
	} while (0)

ssize_t write(int fd, const void *from, size_t size) {
	NOTED_WRITE(fd, from, SYSTEM(write)(fd, from, size), lseek(fd, 0, SEEK_CUR) - written);
}
ssize_t pwrite(int fd, const void *from, size_t size, off_t at) {
	NOTED_WRITE(fd, from, SYSTEM(pwrite)(fd, from, size, at), at);
}
ssize_t pwrite64(int fd, const void *from, size_t size, off64_t at) {
	NOTED_WRITE(fd, from, SYSTEM(pwrite64)(fd, from, size, at), at);
}
// Of several parts the first is written: callers go on with the rest.
ssize_t writev(int fd, const struct iovec *from, int count) {
	if (count < 1) return SYSTEM(writev)(fd, from, count);
	return write(fd, from->iov_base, from->iov_len);
}
ssize_t pwritev(int fd, const struct iovec *from, int count, off_t at) {
	if (count < 1) return SYSTEM(pwritev)(fd, from, count, at);
	return pwrite(fd, from->iov_base, from->iov_len, at);
}
ssize_t pwritev64(int fd, const struct iovec *from, int count, off64_t at) {
	if (count < 1) return SYSTEM(pwritev64)(fd, from, count, at);
	return pwrite64(fd, from->iov_base, from->iov_len, at);
}

#define NOTED(fd, call, kind, number) \
	do { \
		char path[4096]; \
		if (!concerns(fd, path)) return call; \
		pthread_mutex_lock(&lock); \
		int result = call, error = errno; \
		if (result == 0) note(kind, number, "", 0, path); \
		pthread_mutex_unlock(&lock); \
		errno = error; \
		return result; \
	} while (0)

int ftruncate(int fd, off_t size) {
	NOTED(fd, SYSTEM(ftruncate)(fd, size), 'T', (long)size);
}
int ftruncate64(int fd, off64_t size) {
	NOTED(fd, SYSTEM(ftruncate64)(fd, size), 'T', (long)size);
}
int fsync(int fd) {
	NOTED(fd, SYSTEM(fsync)(fd), 'S', 0L);
}
int fdatasync(int fd) {
	NOTED(fd, SYSTEM(fdatasync)(fd), 'S', 0L);
}

// Whoever copies inside the system is made to write.
COPIES_INSIDE(number, {
	errno = ENOSYS;
	return -1;
})
ssize_t copy_file_range(int in, off64_t *from, int out, off64_t *at, size_t size, unsigned flags) {
	(void)in, (void)from, (void)out, (void)at, (void)size, (void)flags;
	errno = ENOSYS;
	return -1;
}
ssize_t sendfile(int out, int in, off_t *from, size_t size) {
	(void)out, (void)in, (void)from, (void)size;
	errno = EINVAL;
	return -1;
}
ssize_t sendfile64(int out, int in, off64_t *from, size_t size) {
	(void)out, (void)in, (void)from, (void)size;
	errno = EINVAL;
	return -1;
}

#define NOTED_PATH(path, call, kind, bytes, length) \
	do { \
		if (!path_lies_within(path)) return call; \
		pthread_mutex_lock(&lock); \
		int result = call, error = errno; \
		if (result >= 0) note(kind, 0L, bytes, length, path); \
		pthread_mutex_unlock(&lock); \
		errno = error; \
		return result; \
	} while (0)

static int opened(const char *path, int flags, mode_t mode) {
	if (!(flags & O_CREAT)) return SYSTEM(open)(path, flags, mode);
	NOTED_PATH(path, SYSTEM(open)(path, flags, mode), flags & O_TRUNC ? 'T' : 'O', "", 0);
}
int open(const char *path, int flags, ...) {
	va_list rest;
	va_start(rest, flags);
	mode_t mode = flags & O_CREAT ? va_arg(rest, mode_t) : 0;
	va_end(rest);
	return opened(path, flags, mode);
}
int open64(const char *path, int flags, ...) {
	va_list rest;
	va_start(rest, flags);
	mode_t mode = flags & O_CREAT ? va_arg(rest, mode_t) : 0;
	va_end(rest);
	return opened(path, flags, mode);
}
int rename(const char *path, const char *to) {
	NOTED_PATH(path, SYSTEM(rename)(path, to), 'R', to, strlen(to));
}
int unlink(const char *path) {
	NOTED_PATH(path, SYSTEM(unlink)(path), 'U', "", 0);
}
int remove(const char *path) {
	NOTED_PATH(path, SYSTEM(remove)(path), 'U', "", 0);
}
int unlinkat(int folder, const char *path, int flags) {
	NOTED_PATH(path, SYSTEM(unlinkat)(folder, path, flags), 'U', "", 0);
}
