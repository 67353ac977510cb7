// A disk that fails when it is told to, for a process that has this file loaded before the system's own calls.
//
// DRAWER_DISK_FOLDER     what lies in it fails; everything else is written as ever
// DRAWER_FAILING_ORDER   a file: while it is there, its text says how: "ENOSPC 12" is full after twelve writes more
//
// The write at which it fails stores half of what it was given, as a disk does that runs full.
#include "within.h"
#include <errno.h>
#include <fcntl.h>
#include <pthread.h>
#include <sys/sendfile.h>
#include <sys/stat.h>
#include <sys/uio.h>

static pthread_mutex_t lock = PTHREAD_MUTEX_INITIALIZER;
static struct timespec read_at;
static ino_t read_of;
static int fails_with;
static long left;

static int number_of(const char *name) {
	if (strcmp(name, "ENOSPC") == 0) return ENOSPC;
	if (strcmp(name, "EDQUOT") == 0) return EDQUOT;
	return EIO;
}

// The error that a write fails with now, or 0. `first` is set for the write at which it begins to fail.
static int failure(int fd, int writes, int *first) {
	const char *order = getenv("DRAWER_FAILING_ORDER");
	char path[4096];
	struct stat now;
	int error = 0;
	*first = 0;
	if (!order || !lies_within(fd, path)) return 0;
	pthread_mutex_lock(&lock);
	if (stat(order, &now) == 0) {
		if (now.st_ino != read_of || now.st_mtim.tv_sec != read_at.tv_sec || now.st_mtim.tv_nsec != read_at.tv_nsec) {
			char name[16] = "";
			FILE *file = fopen(order, "r");
			left = 0;
			if (file) {
				if (fscanf(file, "%15s %ld", name, &left) < 1) name[0] = 0;
				fclose(file);
			}
			fails_with = number_of(name);
			read_of = now.st_ino;
			read_at = now.st_mtim;
		}
		if (!writes) error = left < 0 && fails_with == EIO ? EIO : 0;
		else if (left-- <= 0) {
			error = fails_with;
			*first = left == -1;
		}
	}
	pthread_mutex_unlock(&lock);
	return error;
}

// For calls that answer -1 and say why in errno. `half` stores a part of it, the first time.
#define REFUSED(fd, half) \
	do { \
		int first, error = failure(fd, 1, &first); \
		if (error) { \
			if (first) { half; } \
			errno = error; \
			return -1; \
		} \
	} while (0)

ssize_t write(int fd, const void *from, size_t size) {
	REFUSED(fd, if (size > 1) return SYSTEM(write)(fd, from, size / 2));
	return SYSTEM(write)(fd, from, size);
}
ssize_t pwrite(int fd, const void *from, size_t size, off_t at) {
	REFUSED(fd, if (size > 1) return SYSTEM(pwrite)(fd, from, size / 2, at));
	return SYSTEM(pwrite)(fd, from, size, at);
}
ssize_t pwrite64(int fd, const void *from, size_t size, off64_t at) {
	REFUSED(fd, if (size > 1) return SYSTEM(pwrite64)(fd, from, size / 2, at));
	return SYSTEM(pwrite64)(fd, from, size, at);
}
ssize_t writev(int fd, const struct iovec *from, int count) {
	REFUSED(fd, );
	return SYSTEM(writev)(fd, from, count);
}
ssize_t pwritev(int fd, const struct iovec *from, int count, off_t at) {
	REFUSED(fd, );
	return SYSTEM(pwritev)(fd, from, count, at);
}
ssize_t pwritev64(int fd, const struct iovec *from, int count, off64_t at) {
	REFUSED(fd, );
	return SYSTEM(pwritev64)(fd, from, count, at);
}
int ftruncate(int fd, off_t size) {
	REFUSED(fd, );
	return SYSTEM(ftruncate)(fd, size);
}
int ftruncate64(int fd, off64_t size) {
	REFUSED(fd, );
	return SYSTEM(ftruncate64)(fd, size);
}
int fallocate(int fd, int mode, off_t at, off_t size) {
	REFUSED(fd, );
	return SYSTEM(fallocate)(fd, mode, at, size);
}
int fallocate64(int fd, int mode, off64_t at, off64_t size) {
	REFUSED(fd, );
	return SYSTEM(fallocate64)(fd, mode, at, size);
}
int posix_fallocate(int fd, off_t at, off_t size) {
	int first, error = failure(fd, 1, &first);
	return error ? error : SYSTEM(posix_fallocate)(fd, at, size);
}
int posix_fallocate64(int fd, off64_t at, off64_t size) {
	int first, error = failure(fd, 1, &first);
	return error ? error : SYSTEM(posix_fallocate64)(fd, at, size);
}
COPIES_INSIDE(number, REFUSED((int)of[2], ))
ssize_t copy_file_range(int in, off64_t *from, int out, off64_t *at, size_t size, unsigned flags) {
	REFUSED(out, );
	return SYSTEM(copy_file_range)(in, from, out, at, size, flags);
}
ssize_t sendfile(int out, int in, off_t *from, size_t size) {
	REFUSED(out, );
	return SYSTEM(sendfile)(out, in, from, size);
}
ssize_t sendfile64(int out, int in, off64_t *from, size_t size) {
	REFUSED(out, );
	return SYSTEM(sendfile64)(out, in, from, size);
}
// A broken disk does not store what it took, either; a full one does.
int fsync(int fd) {
	int first, error = failure(fd, 0, &first);
	if (error) {
		errno = error;
		return -1;
	}
	return SYSTEM(fsync)(fd);
}
int fdatasync(int fd) {
	int first, error = failure(fd, 0, &first);
	if (error) {
		errno = error;
		return -1;
	}
	return SYSTEM(fdatasync)(fd);
}
