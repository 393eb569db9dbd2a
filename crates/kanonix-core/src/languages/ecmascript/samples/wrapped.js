(function (root) {

var tide = root.tide;

// What the quay shows.
root.show = function (level) {
    tide.show(level);
};

})(this);
