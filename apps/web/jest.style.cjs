// Style sheets mean nothing to jsdom.
module.exports = {};
