// Ends with 0 where the server on this machine answers and its studio is open.
const { PORT = '5317', DRAWER_TLS_CERT } = process.env;
// The certificate is one's own, and it is this machine that is asked.
if (DRAWER_TLS_CERT) process.env.NODE_TLS_REJECT_UNAUTHORIZED = '0';
try {
	const { status } = await fetch(`${DRAWER_TLS_CERT ? 'https' : 'http'}://127.0.0.1:${PORT}/enter`);
	process.exitCode = status === 200 ? 0 : 1;
	if (status !== 200) console.error(`It answers ${status}.`);
} catch (error) {
	console.error(`It does not answer: ${error.message}`);
	process.exitCode = 1;
}
