declare module "virtual:react-router/server-build";
